/**
 * `mappa-cli/definition-loader`: loads definitions in TypeScript, for the library where Node itself can't.
 *
 * @packageDocumentation
 */
export { runDefinition, runDefinitionNow } from './run.ts'
