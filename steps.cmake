# The steps of the job, in their order: a line each. Their folders are src/core/steps/<step> and src/app/steps/<step>.
set(frenlo_steps
  shoot
  sort
  pace
  steady
  flicker
  tone
  frame
  card
  layers
  retouch
  reel
)
# The pages of the window: those of the steps, a second one of the Reel, and those that belong to the window alone.
set(frenlo_pages ${frenlo_steps} sound export)

# Makes a source of a template: @declarations@ of functions <name>_<what>() that return a const <type>&, and @list@ of what
# they return.
function(frenlo_list template source type what)
  set(declarations "")
  set(calls "")
  foreach(name IN LISTS ARGN)
    string(APPEND declarations "const ${type}& ${name}_${what}();\n")
    list(APPEND calls "&${name}_${what}()")
  endforeach()
  list(JOIN calls ", " list)
  configure_file(${template} ${source} @ONLY)
endfunction()
