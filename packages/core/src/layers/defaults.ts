import { writeValue } from '../definition/accept.ts'
import type { Declaration } from '../definition/definition.ts'
import type { Layer } from './layer.ts'
import { textLayer } from './sources.ts'

/** The defaults of a definition, as texts, so that other values can refer to them. */
export function defaultsLayer(settings: readonly Declaration[]): Layer {
  const defaults = new Map<string, Declaration>()
  for (const each of settings) if (each.default !== undefined) defaults.set(each.name, each)
  return textLayer({
    kind: 'defaults',
    getText(name) {
      const found = defaults.get(name)
      return found === undefined ? undefined : writeValue(found.kind, found.default, found.options)
    },
    getTyped: (name) => defaults.get(name)?.default,
  })
}
