# add_module(name LINKS a b): one static library per folder of src/core. What it links is what it may include;
# tools/check-layers holds the includes to the same list.
function(add_module name)
  cmake_parse_arguments(ARG "" "" "LINKS" ${ARGN})
  file(GLOB sources CONFIGURE_DEPENDS "${CMAKE_CURRENT_SOURCE_DIR}/*.cpp" "${CMAKE_CURRENT_SOURCE_DIR}/*.h")
  add_library(rigmatch_${name} STATIC ${sources})
  target_include_directories(rigmatch_${name} PUBLIC "${CMAKE_SOURCE_DIR}/src/core")
  target_link_libraries(rigmatch_${name} PUBLIC ${ARG_LINKS} PRIVATE rigmatch_warnings)
  set_target_properties(rigmatch_${name} PROPERTIES LINKER_LANGUAGE CXX)
endfunction()
