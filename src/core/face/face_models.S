# The two networks inside the program: no file to be lost beside it.
    .section .rodata
    .balign 16
    .global rigmatch_face_detector
    .global rigmatch_face_detector_end
rigmatch_face_detector:
    .incbin "face_detect_full_range.onnx"
rigmatch_face_detector_end:
    .balign 16
    .global rigmatch_face_mesh
    .global rigmatch_face_mesh_end
rigmatch_face_mesh:
    .incbin "face_mesh_468.onnx"
rigmatch_face_mesh_end:
    .section .note.GNU-stack,"",%progbits
