/**
 * `mappa-settings/envfile`: reads and edits the text of env files without losing anything. Runs on Node and in browsers.
 *
 * @module mappa-settings/envfile
 */
export type { LayerValue } from '../layers/layer.ts'
export { documentLayer } from '../layers/sources.ts'
export type { Operator, Reference, Template } from '../template/template.ts'
export type { Position } from '../text/position.ts'
export { EnvDocument, type EnvDocumentOptions } from './document.ts'
export type { SetOptions } from './edit.ts'
export { quoteValue } from './quote.ts'
export type { EnvEntry, Quote } from './reading/entry.ts'
export type { ParsedEnvFile } from './reading/reading.ts'
