# Several sources of a folder are compiled as one: most of what a compiler does for a source of ours is the same for its
# neighbour (headers, and the library's templates made anew). Sources with options of their own stay alone. So what is
# in an unnamed namespace has a name that its folder knows once.
# -DFRENLO_UNITY=OFF compiles each by itself, which is quicker for who changes one file again and again.
option(FRENLO_UNITY "Compile several sources of a folder as one" ON)
set(FRENLO_UNITY_FILES 8) # of a folder at a time: with more, a change costs too much again

function(frenlo_unity target)
  if(NOT FRENLO_UNITY)
    return()
  endif()
  get_target_property(sources ${target} SOURCES)
  list(FILTER sources INCLUDE REGEX "[.]cpp$")
  list(FILTER sources EXCLUDE REGEX "^${CMAKE_BINARY_DIR}/") # generated
  list(SORT sources)
  set_target_properties(${target} PROPERTIES UNITY_BUILD ON UNITY_BUILD_MODE GROUP)
  # A type of an unnamed namespace in a class that only this source sees: right, but GCC takes it for a header's.
  target_compile_options(${target} PRIVATE $<$<CXX_COMPILER_ID:GNU>:-Wno-subobject-linkage>)
  set(last "none")
  foreach(source IN LISTS sources)
    cmake_path(ABSOLUTE_PATH source OUTPUT_VARIABLE file)
    cmake_path(RELATIVE_PATH file BASE_DIRECTORY ${CMAKE_CURRENT_SOURCE_DIR})
    cmake_path(GET file PARENT_PATH folder)
    if(NOT folder STREQUAL last)
      set(last "${folder}")
      set(n 0)
    endif()
    math(EXPR part "${n} / ${FRENLO_UNITY_FILES}")
    math(EXPR n "${n} + 1")
    string(MAKE_C_IDENTIFIER "${folder}" name)
    set_source_files_properties(${source} PROPERTIES UNITY_GROUP "${name}_${part}")
  endforeach()
endfunction()
