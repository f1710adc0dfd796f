import { existsSync } from 'node:fs'
import { viewProblem } from '@mappa/core/problems/catalogue/views'
import { settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import { isInside } from '@mappa/node/fs/places'
import { findProgram } from '@mappa/node/git/programs'

const { createRequire } = process.getBuiltinModule('node:module')

/** Knows how each editor is told the line; loaded only when a file is opened. */
const loadLauncher = () =>
  createRequire(import.meta.url)('launch-editor') as (
    file: string,
    editor: string,
    failed: (file: string, message: string | null) => void,
  ) => void

/**
 * The editor of a person: the one that was asked for, else what `VISUAL` or `EDITOR` says. It can have arguments.
 *
 * @param root the directory of the project: a program of the machine is started, and none of the project
 * @returns the same with the absolute path of the program; `null` where nothing names one, or the environment names one that is
 * not there: it is not guessed
 * @throws {SettingsError} if the machine does not have the one that was asked for
 */
export function getEditor(
  asked: string | undefined,
  { VISUAL, EDITOR }: Readonly<Record<string, string | undefined>>,
  root: string,
): string | null {
  if (!asked) return resolveEditor(VISUAL || EDITOR || '', root)
  const editor = resolveEditor(asked, root)
  if (editor === null) throw settingsError(viewProblem('editor-not-found', { editor: asked }))
  return editor
}

function resolveEditor(editor: string, root: string): string | null {
  const { name, rest } = /^(?<name>[^\s"'\\/]+)(?<rest>\s.*)?$/s.exec(editor.trim())?.groups ?? {}
  // A path is what the person says it is.
  if (name === undefined) return editor.trim() || null
  const program = findProgram(name, root)
  return program === null ? null : `"${program}"${rest ?? ''}`
}

/**
 * Opens a file of the project in an editor, at a line.
 *
 * @param file relative to the root
 * @returns false where there is no such file within the project
 */
export function openInEditor(root: string, file: string, line: number, editor: string): boolean {
  const whole = path.resolve(root, file)
  if (!isInside(whole, root) || !existsSync(whole)) return false
  loadLauncher()(`${whole}:${line}:1`, editor, () => {})
  return true
}
