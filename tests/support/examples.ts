/** The examples, for tests of packages: they name what they import, and no path leads out of them. */

export { runExample as runDomeApi } from '../../examples/dome-api/simulated/run-example.ts'
export { default as domeApiDefinition } from '../../examples/dome-api/src/settings.definition.ts'
export { runExample as runNightDesk } from '../../examples/night-desk/simulated/run-example.ts'
