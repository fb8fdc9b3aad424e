# What every target of ours is compiled with. Warnings are errors; third-party headers are SYSTEM.
add_library(frenlo_habits INTERFACE)
target_compile_options(frenlo_habits INTERFACE
  -Wall -Wextra -Wpedantic -Wshadow -Wnon-virtual-dtor -Woverloaded-virtual -Wimplicit-fallthrough
  -Wextra-semi -Werror)
if(FRENLO_SANITIZE)
  # For tests only; recovering would let a find pass unnoticed. The fuzzer's eyes are in all of it, so that one tree
  # serves the tests and the fuzz targets.
  target_compile_options(frenlo_habits INTERFACE -fsanitize=fuzzer-no-link,address,undefined -fno-sanitize-recover=all
    -fno-omit-frame-pointer)
  # Of pointers, what the address sanitizer finds as well, or what this machine does not mind: at every pixel these took
  # about half of the tests' time.
  target_compile_options(frenlo_habits INTERFACE -fno-sanitize=null,alignment,object-size,pointer-overflow)
  # Clang tells of names in the sources beside it, too; GCC, which compiles all of it, tells of those that are seen.
  target_compile_options(frenlo_habits INTERFACE -Wno-shadow)
  target_link_options(frenlo_habits INTERFACE -fsanitize=address,undefined)
endif()

find_program(FRENLO_CCACHE ccache)
if(FRENLO_CCACHE AND NOT CMAKE_CXX_COMPILER_LAUNCHER) # paths are taken relative, so that a second clone finds what the first one built
  set(CMAKE_CXX_COMPILER_LAUNCHER ${CMAKE_COMMAND} -E env CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime
    CCACHE_BASEDIR=${CMAKE_SOURCE_DIR} CCACHE_NOHASHDIR=1 ${FRENLO_CCACHE})
endif()
find_program(FRENLO_MOLD mold)
if(FRENLO_MOLD)
  add_link_options(-fuse-ld=mold)
endif()
