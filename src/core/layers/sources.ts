import type { Declaration } from '../definition/definition.ts'
import type { EnvReading } from '../envfile/reading.ts'
import type { Problem } from '../problems/problem.ts'
import { displayEntry } from '../secret/display.ts'
import { type Layer, type LayerValue, layerValue, type Origin } from './layer.ts'
import { DEFAULTS, ENVIRONMENT, layerTitle } from './order.ts'

/**
 * An env file as a layer.
 *
 * @param id the layer's name, such as `.env.production`
 * @param document the file, read
 */
export function documentLayer(id: string, document: EnvReading): Layer {
  return {
    id,
    title: document.file ?? id,
    state: 'read',
    problems: document.problems,
    get(name): LayerValue | undefined {
      const entry = document.get(name)
      if (entry === undefined) return undefined
      const origin = { layer: id, file: document.file ?? id, line: entry.line, column: entry.valueColumn }
      return layerValue(origin, entry.value, {
        nameColumn: entry.column,
        broken: entry.broken,
        setOn: () => document.dayOf(entry),
        excerpt() {
          const { before, value } = document.written(entry)
          return displayEntry(before, value)
        },
      })
    },
    names: () => document.names(),
  }
}

/** A layer file that is not there, or can't be read for the reason that `problems` gives. */
export function emptyLayer(id: string, file: string, problems: readonly Problem[]): Layer {
  return {
    id,
    title: file,
    state: problems.length > 0 ? 'unreadable' : 'absent',
    problems,
    get: () => undefined,
    names: () => [],
  }
}

/** The variables a process was started with. Their values are taken as they are: `$` is just a character. */
export function environmentLayer(environment: Readonly<Record<string, string | undefined>>): Layer {
  const origin: Origin = { layer: ENVIRONMENT, file: null, line: null, column: null }
  return {
    id: ENVIRONMENT,
    title: layerTitle(ENVIRONMENT),
    state: 'read',
    problems: [],
    get(name) {
      // What a plain object inherits is no text; asking it whether it has the name would double the time.
      const value: unknown = environment[name]
      return typeof value === 'string' ? layerValue(origin, value) : undefined
    },
    names: () => [],
    environmentNames: () => Object.keys(environment),
  }
}

/** The defaults of a definition, as texts, so that other values can refer to them. */
export function defaultsLayer(settings: readonly Declaration[]): Layer {
  const origin: Origin = { layer: DEFAULTS, file: null, line: null, column: null }
  const defaults = new Map<string, LayerValue>()
  for (const { name, kind, options, default: value } of settings) {
    if (value === undefined) continue
    defaults.set(name, layerValue(origin, kind.toText(value, options)))
  }
  return {
    id: DEFAULTS,
    title: layerTitle(DEFAULTS),
    state: 'read',
    problems: [],
    get: (name) => defaults.get(name),
    names: () => [],
  }
}
