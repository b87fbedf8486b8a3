# Language level, warnings as errors, ccache.
set(CMAKE_CXX_STANDARD 20)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)
set(CMAKE_EXPORT_COMPILE_COMMANDS ON)

find_program(CCACHE_PROGRAM ccache)
if(CCACHE_PROGRAM)
  # Precompiled headers: what ccache has to be told of them, and what GCC has to leave in the preprocessed text.
  set(CMAKE_CXX_COMPILER_LAUNCHER "${CMAKE_COMMAND};-E;env;CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime;${CCACHE_PROGRAM}")
  if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU")
    add_compile_options($<$<COMPILE_LANGUAGE:CXX>:-fpch-preprocess>)
  endif()
endif()

# GCC collects its garbage many times a file before it has used what any machine has: a tenth of what templates cost.
if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU")
  add_compile_options("$<$<COMPILE_LANGUAGE:CXX>:SHELL:--param ggc-min-heapsize=1000000>")
endif()

add_library(rigmatch_warnings INTERFACE)
target_compile_options(rigmatch_warnings INTERFACE
  -Wall -Wextra -Wpedantic -Wshadow -Wconversion -Wold-style-cast
  -Wnon-virtual-dtor -Woverloaded-virtual -Werror
  # GCC 12 reports joins of std::string as overlapping or out of bounds (its bug 105651), above all where the string
  # comes from a precompiled header.
  $<$<CXX_COMPILER_ID:GNU>:-Wno-restrict>
  # Several files compiled as one: what one of them keeps to itself looks to GCC as if a header had it.
  $<$<AND:$<CXX_COMPILER_ID:GNU>,$<BOOL:${CMAKE_UNITY_BUILD}>>:-Wno-subobject-linkage>
  # Exiv2's own owning pointer is called deprecated in its headers, which GCC does not say of a system's header.
  $<$<CXX_COMPILER_ID:Clang>:-Wno-deprecated-declarations>
  $<$<AND:$<CXX_COMPILER_ID:GNU>,$<VERSION_LESS:$<CXX_COMPILER_VERSION>,13>>:-Wno-array-bounds>
  $<$<AND:$<CXX_COMPILER_ID:GNU>,$<VERSION_LESS:$<CXX_COMPILER_VERSION>,13>>:-Wno-stringop-overflow>)

# What is generated is not ours to mend: in the build folder clang-tidy looks for next to nothing.
if(CMAKE_CXX_CLANG_TIDY)
  file(WRITE "${CMAKE_BINARY_DIR}/.clang-tidy" "Checks: '-*,modernize-use-nullptr'\nInheritParentConfig: false\n")
endif()
