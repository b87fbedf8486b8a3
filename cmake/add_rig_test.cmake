# add_rig_tests(program LABEL unit SOURCES a.cpp b.cpp LINKS ...): one program of many Qt Test classes, and one
# entry of ctest for each of its files. Fewer programs and one precompiled header each keep a cold build short.
function(add_rig_tests program)
  cmake_parse_arguments(ARG "WIDGETS" "LABEL;OPTIMISE" "SOURCES;LINKS" ${ARGN})
  add_executable(${program} ${ARG_SOURCES} "${CMAKE_SOURCE_DIR}/tests/support/test_main.cpp")
  add_mocs(${program} ${ARG_SOURCES})
  target_include_directories(${program} PRIVATE "${CMAKE_SOURCE_DIR}/tests")
  target_compile_definitions(${program} PRIVATE
    RIGMATCH_SOURCE_DIR="${CMAKE_SOURCE_DIR}" RIGMATCH_BINARY_DIR="${CMAKE_BINARY_DIR}"
    $<$<BOOL:${ARG_WIDGETS}>:RIGMATCH_TEST_WIDGETS>)
  # What tests themselves compute is little: compiling them fast is worth more.
  target_compile_options(${program} PRIVATE -O${ARG_OPTIMISE})
  target_link_libraries(${program} PRIVATE ${ARG_LINKS} Qt6::Test rigmatch_warnings)
  set(headers ${rigmatch_common_headers} <nlohmann/json.hpp> "${CMAKE_SOURCE_DIR}/tests/support/qt_test.h")
  if(ARG_WIDGETS)
    list(APPEND headers <QtWidgets>)
  endif()
  target_precompile_headers(${program} PRIVATE ${headers})
  # What takes a minute takes twenty under a sanitizer.
  set(seconds 600)
  if(RIGMATCH_SANITIZE)
    set(seconds 6000)
  endif()
  foreach(source ${ARG_SOURCES})
    get_filename_component(name "${source}" NAME_WE)
    add_test(NAME ${name} COMMAND ${program} ${name} WORKING_DIRECTORY "${CMAKE_BINARY_DIR}")
    set_tests_properties(${name} PROPERTIES LABELS "${ARG_LABEL}" TIMEOUT ${seconds}
      ENVIRONMENT "QT_QPA_PLATFORM=offscreen;LC_ALL=C.UTF-8;LSAN_OPTIONS=suppressions=${CMAKE_SOURCE_DIR}/tests/support/leaks.supp:print_suppressions=0")
  endforeach()
endfunction()
