# The steps of the job, in their order: a line each. Their folders are src/core/steps/<step> and src/app/steps/<step>.
set(frenlo_steps
  sort
  pace
  steady
  flicker
)
