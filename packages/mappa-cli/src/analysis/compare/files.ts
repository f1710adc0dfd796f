import { acceptText } from '@mappa/core/definition/accept'
import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { documentLayer } from '@mappa/core/layers/sources'
import { isSuspect } from '@mappa/core/resolve/resolve-one'
import { containsSecret } from '@mappa/core/secret/contains-secret'
import { displayValue } from '@mappa/core/secret/display'
import { toMeaning } from '@mappa/core/text/meaning'
import { type Marks, makeMarks } from './marks.ts'
import { type Cell, type Comparison, EMPTY, getRelation } from './table.ts'

/** An env file, read. */
export type EnvFile = Parameters<typeof documentLayer>[1]

/** What one file has for a name. */
interface Entry {
  readonly text: string
  readonly meaning: string
  readonly valid: boolean
}

/**
 * Puts env files side by side, each by itself: what other layers have is left aside, and references stand as they are written. Values of
 * names that the definition does not declare may be secrets, so they are masked.
 *
 * @param files each with the name to show
 * @param definition what is known of the names; `null` if there is none
 * @returns a row for each name that one of the files has, in the order of the definition, others behind it
 */
export function compareFiles(
  files: readonly (readonly [label: string, file: EnvFile])[],
  definition: Definition | null,
): Comparison {
  const marks = makeMarks()
  const declared = new Map((definition?.settings ?? []).map((each) => [each.name, each]))
  const present = new Set(files.flatMap(([, file]) => [...file.names()]))
  const secrets = files.flatMap(([, file]) => findSecrets(file, declared))
  /** A wrong value that contains a secret: it was pasted into the wrong line. */
  const isHidden = (entry: Entry | null, declaration: Declaration | undefined) =>
    entry !== null &&
    (declaration === undefined || !entry.valid || isSuspect(declaration, entry.text)) &&
    containsSecret(entry.text, secrets)
  const names = [...[...declared.keys()].filter((name) => present.has(name)), ...present]
  return {
    columns: files.map(([label]) => label),
    rows: [...new Set(names)].map((name) => {
      const declaration = declared.get(name)
      const entries = files.map(([, file]) => toEntry(file, name, declaration))
      const secret = declaration?.secret !== false
      return {
        name,
        path: declaration?.path ?? null,
        secret,
        relation: getRelation(entries.map((each) => each?.meaning ?? null)),
        cells: entries.map((each, column) =>
          toCell(each, secret || isHidden(each, declaration), marks, name, files[column]!),
        ),
      }
    }),
  }
}

/** The values of secrets in a file, and of names that nobody declares, which may be some. */
function findSecrets(file: EnvFile, declared: ReadonlyMap<string, Declaration>): string[] {
  return [...file.names()]
    .filter((name) => declared.get(name)?.secret !== false)
    .flatMap((name) => toEntry(file, name, declared.get(name))?.text ?? [])
}

function toEntry(file: EnvFile, name: string, declaration: Declaration | undefined): Entry | null {
  const entry = file.get(name)
  if (entry === undefined) return null
  if (typeof entry.value !== 'string') {
    const { value: written } = file.written(entry)
    return { text: written, meaning: `written ${written}`, valid: !entry.broken }
  }
  const text = entry.value
  if (declaration === undefined) return { text, meaning: toMeaning(text), valid: !entry.broken }
  const { value, failures } = acceptText(declaration, text)
  const isValid = failures.length === 0 && !entry.broken
  return { text, meaning: isValid ? toMeaning(value) : `text ${text}`, valid: isValid }
}

function toCell(
  entry: Entry | null,
  secret: boolean,
  marks: Marks,
  name: string,
  [label, file]: readonly [string, EnvFile],
): Cell {
  if (entry === null) return { state: 'unset', shown: null, mark: null, origin: null, problems: [] }
  const { origin } = documentLayer(label, file).get(name)!
  const shown = displayValue(entry.text, { secret: false, bare: true, widest: Number.POSITIVE_INFINITY })
  return {
    state: entry.valid ? 'set' : 'invalid',
    shown: secret ? null : shown || EMPTY,
    mark: secret ? marks(entry.meaning) : null,
    origin,
    problems: [],
  }
}
