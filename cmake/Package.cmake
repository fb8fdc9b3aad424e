# A package for Debian: `./dev package`, or cpack in the build's folder. What it depends on is found out from the
# libraries that the programs are linked to.
set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME frenlo)
set(CPACK_PACKAGE_VENDOR Frenlo)
set(CPACK_PACKAGE_CONTACT "The Frenlo team <frenlo@localhost>")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "From a card of photos to a film or a loop")
set(CPACK_DEBIAN_PACKAGE_DESCRIPTION
"For photographers who move things by hand between photos, and for those who
photograph slow things at intervals: order, holds, steadying, light, tone, frame,
retouch, sound, and films and loops that are read back and checked. Or take the
photos here. A window, and frenlo-cli for scripts.")
set(CPACK_STRIP_FILES ON)
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_DEBIAN_PACKAGE_SECTION video)
set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS ON)
string(REGEX MATCH "^[0-9]+" libavdevice_major ${LIBAVDEVICE_VERSION})
set(CPACK_DEBIAN_PACKAGE_DEPENDS "qt6-qpa-plugins, libavdevice${libavdevice_major}") # loaded by name, not linked
set(CPACK_DEBIAN_COMPRESSION_TYPE xz)
include(CPack)

find_package(Python3 REQUIRED COMPONENTS Interpreter)
set(man_maker ${CMAKE_SOURCE_DIR}/assets/man/make_man.py)
set(man_pages)
foreach(program frenlo frenlo-cli)
  set(page ${CMAKE_BINARY_DIR}/man/${program}.1.gz)
  set(summary "from a card of photos to a film or a loop")
  if(program STREQUAL "frenlo-cli")
    string(APPEND summary ", without a window")
  endif()
  add_custom_command(OUTPUT ${page}
    COMMAND ${CMAKE_COMMAND} -E make_directory ${CMAKE_BINARY_DIR}/man
    COMMAND ${Python3_EXECUTABLE} ${man_maker} $<TARGET_FILE:${program}> ${program} ${PROJECT_VERSION} ${summary} ${page}
    DEPENDS ${program} ${man_maker} VERBATIM)
  list(APPEND man_pages ${page})
endforeach()
add_custom_target(man-pages ALL DEPENDS ${man_pages})
install(FILES ${man_pages} DESTINATION ${CMAKE_INSTALL_MANDIR}/man1)

# The icon in the sizes that desktops draw without scaling.
find_program(RSVG_CONVERT rsvg-convert REQUIRED)
set(icon ${CMAKE_SOURCE_DIR}/assets/icons/frenlo.svg)
set(icons)
foreach(side 16 22 24 32 48 64 128 256)
  set(picture ${CMAKE_BINARY_DIR}/icons/${side}/frenlo.png)
  add_custom_command(OUTPUT ${picture}
    COMMAND ${CMAKE_COMMAND} -E make_directory ${CMAKE_BINARY_DIR}/icons/${side}
    COMMAND ${RSVG_CONVERT} --width ${side} --height ${side} --output ${picture} ${icon}
    DEPENDS ${icon} VERBATIM)
  list(APPEND icons ${picture})
  install(FILES ${picture} DESTINATION ${CMAKE_INSTALL_DATADIR}/icons/hicolor/${side}x${side}/apps)
endforeach()
add_custom_target(icons ALL DEPENDS ${icons})
