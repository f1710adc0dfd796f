import { isDefinition } from '@mappa/core/definition/definition'

/** What a module that was run exports by default; all that it exports, where that is a definition, as in CommonJS. */
export function unwrapExport(module: { readonly default?: unknown }): unknown {
  return isDefinition(module) ? module : module.default
}
