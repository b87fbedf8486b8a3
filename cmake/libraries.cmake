# Libraries from Debian's packages; every one is a SYSTEM include, so its headers raise no warning here.
find_package(PkgConfig REQUIRED)
find_package(Threads REQUIRED)
find_package(Eigen3 REQUIRED NO_MODULE)
find_package(nlohmann_json REQUIRED)
find_package(tl-expected REQUIRED)
find_package(OpenCV REQUIRED COMPONENTS core imgproc calib3d)
pkg_check_modules(FFMPEG REQUIRED IMPORTED_TARGET libavformat libavcodec libavutil libswscale)
pkg_check_modules(EXIV2 REQUIRED IMPORTED_TARGET exiv2)
pkg_check_modules(OCIO REQUIRED IMPORTED_TARGET OpenColorIO)

add_library(rigmatch_opencv INTERFACE)
target_include_directories(rigmatch_opencv SYSTEM INTERFACE ${OpenCV_INCLUDE_DIRS})
target_link_libraries(rigmatch_opencv INTERFACE opencv_core opencv_imgproc opencv_calib3d)
