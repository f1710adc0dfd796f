import { holdsValues, isLocalFile } from '@mappa/core/layers/env-file-name'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { maskEnvText, maskSecrets } from '../analysis/move/mask.ts'
import type { DiffLine, DiffView } from './diff.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** Loaded only by what shows a difference, and required: to import CommonJS makes Node read each file twice. */
const loadDiff = () => createRequire(import.meta.url)('diff') as typeof import('diff')

/** A file before and after a change. */
export interface ChangedFile {
  readonly file: string
  readonly before: string | null
  readonly after: string
}

const KINDS: Readonly<Record<string, DiffLine['kind']>> = { '+': 'added', '-': 'removed', '@': 'place' }

/**
 * The difference between two texts. The texts must not contain secrets: {@link maskedDiff} masks them first.
 *
 * @param context how many lines to show around each change
 */
export function diffView({ file, before, after }: ChangedFile, context = 2): DiffView {
  const { hunks } = loadDiff().structuredPatch(file, file, before ?? '', after, undefined, undefined, { context })
  const lines = hunks.flatMap(({ oldStart, oldLines, newStart, newLines, lines: own }): DiffLine[] => [
    { kind: 'place', text: `@@ -${toRange(oldStart, oldLines)} +${toRange(newStart, newLines)} @@` },
    ...own
      .filter((line) => !line.startsWith('\\'))
      .map((line) => ({ kind: KINDS[line[0]!] ?? 'same', text: escapeInvisible(line.slice(1)) }) as const),
  ])
  return { file, isNew: before === null, lines }
}

/** No lines are told by the line before them, as in POSIX. */
function toRange(start: number, count: number): string {
  return `${count === 0 ? start - 1 : start},${count}`
}

/** What must not be seen in a diff. */
export interface Hidden {
  /** The names of secrets. */
  readonly names: ReadonlySet<string>
  /** Values of secrets, wherever they stand. */
  readonly values: readonly string[]
}

/** The difference that a change makes to a file, without secrets. */
export function maskedDiff(change: ChangedFile, { names, values }: Hidden): DiffView {
  const { file } = change
  const isEnv = holdsValues(file)
  const local = isLocalFile(file)
  const masked = (text: string) =>
    maskSecrets(isEnv ? maskEnvText(text, (name) => local || names.has(name)) : text, values)
  const { before, after } = change
  const safe = { file, before: before === null ? null : masked(before), after: masked(after) }
  // Comments, lines that are no entries and variables of others may hold anything, so no lines around the change are shown.
  return diffView(safe, isEnv ? 0 : 2)
}
