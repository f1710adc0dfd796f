/** What `mappa-settings/derive` makes public. */
export { definitionSchema } from './definition-schema.ts'
export { environmentSchema } from './environment-schema.ts'
export { exampleFile } from './example.ts'
export { modulesFile } from './modules.ts'
export { referenceFile } from './reference.ts'
export { valuesSchema } from './schema.ts'
export type { SchemaOptions } from './stage-schemas.ts'
export { typesFile } from './types.ts'
