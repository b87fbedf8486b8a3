# The program's typeface inside the program, for the printed card.
    .section .rodata
    .balign 16
    .global rigmatch_font_regular
    .global rigmatch_font_regular_end
rigmatch_font_regular:
    .incbin "rig-match-sans-regular.otf"
rigmatch_font_regular_end:
    .balign 16
    .global rigmatch_font_semibold
    .global rigmatch_font_semibold_end
rigmatch_font_semibold:
    .incbin "rig-match-sans-semibold.otf"
rigmatch_font_semibold_end:
    .section .note.GNU-stack,"",%progbits
