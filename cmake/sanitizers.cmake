# Address and undefined-behaviour checks as a checked option.
option(RIGMATCH_SANITIZE "Build with the address and undefined-behaviour sanitizers" OFF)
if(RIGMATCH_SANITIZE)
  if(NOT CMAKE_CXX_COMPILER_ID MATCHES "GNU|Clang")
    message(FATAL_ERROR "RIGMATCH_SANITIZE needs GCC or Clang, not ${CMAKE_CXX_COMPILER_ID}")
  endif()
  add_compile_options(-fsanitize=address,undefined -fno-omit-frame-pointer)
  add_link_options(-fsanitize=address,undefined)
endif()
