# The steps of the job, in their order: a line each. Their folders are src/core/steps/<step> and src/app/steps/<step>.
set(frenlo_steps
  sort
  pace
  steady
  flicker
)
# The pages of the window: those of the steps, and those that belong to the window alone.
set(frenlo_pages ${frenlo_steps} export)
