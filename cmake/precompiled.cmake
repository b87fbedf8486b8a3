# Headers that most files of the core read, compiled once for all modules of one set of options.
set(rigmatch_common_headers
  <algorithm> <array> <cmath> <filesystem> <functional> <map> <memory> <numbers> <optional> <string> <string_view>
  <vector> <Eigen/Dense> <Eigen/Geometry> <tl/expected.hpp>)
file(WRITE "${CMAKE_BINARY_DIR}/precompiled/empty.cpp.in" "")
configure_file("${CMAKE_BINARY_DIR}/precompiled/empty.cpp.in" "${CMAKE_BINARY_DIR}/precompiled/empty.cpp" COPYONLY)
set(kinds plain numeric fast)
if(RIGMATCH_SANITIZE)
  set(kinds plain)
endif()
foreach(kind ${kinds})
  add_library(rigmatch_headers_${kind} OBJECT "${CMAKE_BINARY_DIR}/precompiled/empty.cpp")
  target_link_libraries(rigmatch_headers_${kind} PRIVATE Eigen3::Eigen tl::expected rigmatch_warnings)
  target_precompile_headers(rigmatch_headers_${kind} PRIVATE ${rigmatch_common_headers})
endforeach()
if(NOT RIGMATCH_SANITIZE)
  target_compile_options(rigmatch_headers_fast PRIVATE -O3)
  # CMAKE_BUILD_TYPE is empty in every build but a release, which optimises all by itself.
  target_compile_options(rigmatch_headers_numeric PRIVATE $<$<CONFIG:>:-O2>)
endif()
