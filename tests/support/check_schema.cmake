# The demo project, as Frenlo wrote it, against docs/project.schema.json, by Debian's python3-jsonschema.
execute_process(COMMAND /usr/bin/python3 -c "import json,sys,jsonschema
schema=json.load(open(sys.argv[1])); jsonschema.Draft202012Validator.check_schema(schema)
jsonschema.Draft202012Validator(schema).validate(json.load(open(sys.argv[2])))
" ${SOURCE}/docs/project.schema.json $ENV{FRENLO_DEMO} RESULT_VARIABLE status)
if(NOT status EQUAL 0)
  message(FATAL_ERROR "the project file is not what the schema says")
endif()
