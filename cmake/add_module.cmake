# add_module(name [FAST] LINKS a b): one static library per folder of src/core. What it links is what it may include;
# tools/check-layers holds the includes to the same list. FAST: optimised in every build, as a part that the time of a
# scan or a screen hangs on.
function(add_module name)
  cmake_parse_arguments(ARG "FAST" "" "LINKS" ${ARGN})
  file(GLOB sources CONFIGURE_DEPENDS "${CMAKE_CURRENT_SOURCE_DIR}/*.cpp" "${CMAKE_CURRENT_SOURCE_DIR}/*.h")
  add_library(rigmatch_${name} STATIC ${sources})
  target_include_directories(rigmatch_${name} PUBLIC "${CMAKE_SOURCE_DIR}/src/core")
  target_link_libraries(rigmatch_${name} PUBLIC ${ARG_LINKS} PRIVATE Eigen3::Eigen tl::expected rigmatch_warnings)
  set_target_properties(rigmatch_${name} PROPERTIES LINKER_LANGUAGE CXX)
  if(ARG_FAST)
    target_compile_options(rigmatch_${name} PRIVATE $<$<COMPILE_LANGUAGE:CXX>:-O3>)
    target_precompile_headers(rigmatch_${name} REUSE_FROM rigmatch_headers_fast)
  else()
    target_precompile_headers(rigmatch_${name} REUSE_FROM rigmatch_headers_plain)
  endif()
endfunction()
