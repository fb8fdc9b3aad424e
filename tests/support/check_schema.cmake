# The demo project, as Frenlo wrote it, against docs/project.schema.json, by Debian's python3-jsonschema: as it is, and with a
# shot held still and evened in every way there is.
get_filename_component(folder $ENV{FRENLO_DEMO} DIRECTORY)
set(worked ${folder}/schema-check.frenlo)
file(COPY_FILE $ENV{FRENLO_DEMO} ${worked})
foreach(call "steady;--shot;Bean sprout" "steady;--shot;Pier walk;--way;smooth"
    "light;--shot;Bean sprout;--by-tone;--by-place;--each-colour;--camera-steps;--moving-too;--region;10,10,900,600;--mix;4;--leave-as-shot;7")
  list(GET call 0 command)
  list(SUBLIST call 1 -1 options)
  execute_process(COMMAND ${CLI} ${command} ${worked} ${options} RESULT_VARIABLE status OUTPUT_QUIET)
  if(status GREATER 1)
    message(FATAL_ERROR "frenlo-cli ${call} ended with ${status}")
  endif()
endforeach()
foreach(project $ENV{FRENLO_DEMO} ${worked})
  execute_process(COMMAND /usr/bin/python3 -c "import json,sys,jsonschema
schema=json.load(open(sys.argv[1])); jsonschema.Draft202012Validator.check_schema(schema)
jsonschema.Draft202012Validator(schema).validate(json.load(open(sys.argv[2])))
" ${SOURCE}/docs/project.schema.json ${project} RESULT_VARIABLE status)
  if(NOT status EQUAL 0)
    message(FATAL_ERROR "the project file ${project} is not what the schema says")
  endif()
endforeach()
file(REMOVE ${worked})
