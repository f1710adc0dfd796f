/**
 * `mappa-settings/derive`: what follows from a definition, as text or as a schema: the example file, types, the reference, JSON Schema.
 * Runs on Node and in browsers.
 *
 * @module mappa-settings/derive
 */
export { definitionSchema } from './definition-schema.ts'
export { environmentSchema } from './environment-schema.ts'
export { exampleFile } from './example.ts'
export { modulesFile } from './modules.ts'
export { referenceFile } from './reference.ts'
export { valuesSchema } from './schema.ts'
export { typesFile } from './types.ts'
