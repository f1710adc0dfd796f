import type { EnvEntry } from '../envfile/reading/entry.ts'
import type { ParsedEnvFile } from '../envfile/reading/reading.ts'
import type { Problem } from '../problems/problem.ts'
import { displayEntry } from '../secret/display.ts'
import { type Layer, type LayerValue, layerValue, type Origin } from './layer.ts'
import { describeLayer, type LayerKind } from './order.ts'

/**
 * An env file as a layer.
 *
 * @param id the layer's name, such as `.env.production`
 * @param document the file, read
 * @param isShared true for a file that other packages read as well
 * @example
 * ```ts
 * const layer = documentLayer('.env', EnvDocument.from('DOME_URL=http://127.0.0.1:4200\n'))
 * resolveSettings(definition, { layers: [layer] }).values // { dome: { url: 'http://127.0.0.1:4200' } }
 * ```
 */
export function documentLayer(id: string, document: ParsedEnvFile, isShared = false): Layer {
  const names = () => document.names()
  let repeated: ReadonlyMap<string, readonly EnvEntry[]> | undefined
  const toValue = (entry: EnvEntry): LayerValue => {
    const origin = { layer: id, file: document.file ?? id, line: entry.line, column: entry.valueColumn }
    return layerValue(origin, entry.value, {
      nameColumn: entry.column,
      broken: entry.broken,
      setOn: () => document.getDay(entry),
      end: () => document.findEnd(entry),
      codeFrame() {
        const { before, value } = document.written(entry)
        return displayEntry(before, value)
      },
    })
  }
  return {
    id,
    kind: 'file',
    title: document.file ?? id,
    state: 'read',
    problems: document.problems,
    get(name) {
      const entry = document.get(name)
      return entry && toValue(entry)
    },
    listRepeated(name) {
      repeated ??= listRepeated(document)
      return (repeated.get(name) ?? []).map(toValue)
    },
    ...(isShared ? { names: () => [], sharedNames: names } : { names }),
  }
}

/** The entries that a later one with the same name covers, the last of them first. */
function listRepeated({ entries }: ParsedEnvFile): ReadonlyMap<string, readonly EnvEntry[]> {
  const seen = new Set<string>()
  const found = new Map<string, EnvEntry[]>()
  for (const each of entries.toReversed()) {
    const { name } = each
    if (!seen.has(name)) seen.add(name)
    else found.set(name, [...(found.get(name) ?? []), each])
  }
  return found
}

/** A layer file that is not there, or can't be read for the reason that `problems` gives. */
export function emptyLayer(id: string, file: string, problems: readonly Problem[]): Layer {
  return {
    id,
    kind: 'file',
    title: file,
    state: problems.length > 0 ? 'unreadable' : 'absent',
    problems,
    get: () => undefined,
    names: () => [],
  }
}

/**
 * The variables a process was started with. Their values are taken as they are: `$` is just a character.
 *
 * @example
 * ```ts
 * const layer = environmentLayer({ DOME_URL: 'http://127.0.0.1:4200' })
 * resolveSettings(definition, { layers: [layer] }).values // { dome: { url: 'http://127.0.0.1:4200' } }
 * ```
 */
export function environmentLayer(environment: Readonly<Record<string, string | undefined>>): Layer {
  // What a plain object inherits is no text; asking it whether it has the name would double the time.
  const getText = (name: string): unknown => environment[name]
  return { ...textLayer({ kind: 'environment', getText }), sharedNames: () => Object.keys(environment) }
}

/** What makes a layer of texts. */
interface TextLayer {
  readonly kind: LayerKind
  /** The kind if left out. */
  readonly id?: string
  /** The text of a variable; anything else for one that the layer does not set. */
  readonly getText: (name: string) => unknown
  /** The value that the text was written from; left out where there are only texts. */
  readonly getTyped?: (name: string) => unknown
  /** What was wrong while it was read; nothing if left out. */
  readonly problems?: readonly Problem[]
  /** The names in it, if it belongs to the project alone. */
  readonly names?: () => readonly string[]
}

/** Makes a layer of texts that have no location. */
export function textLayer({ kind, id = kind, getText, getTyped, problems = [], names = () => [] }: TextLayer): Layer {
  const origin: Origin = { layer: id, file: null, line: null, column: null }
  return {
    id,
    kind,
    title: describeLayer(id),
    state: 'read',
    problems,
    get(name) {
      const text = getText(name)
      return typeof text === 'string' ? layerValue(origin, text, { typed: getTyped?.(name) }) : undefined
    },
    names,
  }
}
