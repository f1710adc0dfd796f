import { existsSync } from 'node:fs'
import { path } from '../../../mappa/src/node/fs/builtin.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** Knows how each editor is told the line; loaded only when a file is opened. */
const loadLauncher = () =>
  createRequire(import.meta.url)('launch-editor') as (
    file: string,
    editor: string,
    failed: (file: string, message: string | null) => void,
  ) => void

/**
 * The editor of a person: the one that was asked for, else what `VISUAL` or `EDITOR` says.
 *
 * @returns `null` where nothing names one: it is not guessed
 */
export function editorOf(
  asked: string | undefined,
  { VISUAL, EDITOR }: Readonly<Record<string, string | undefined>>,
): string | null {
  return asked || VISUAL || EDITOR || null
}

/**
 * Opens a file of the project in an editor, at a line.
 *
 * @param file relative to the root
 * @returns false where there is no such file within the project
 */
export function openInEditor(root: string, file: string, line: number, editor: string): boolean {
  const whole = path.resolve(root, file)
  const inner = path.relative(root, whole)
  if (inner.startsWith('..') || path.isAbsolute(inner) || !existsSync(whole)) return false
  loadLauncher()(`${whole}:${line}:1`, editor, () => {})
  return true
}
