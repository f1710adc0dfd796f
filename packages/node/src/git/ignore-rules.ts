import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { settingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '../fs/builtin.ts'
import { updateFile } from '../fs/update-file.ts'
import { findRepository, listIgnored, listIgnoredForAll, listOwnExcludes, listTracked } from './git.ts'

/** The rules that keep the files of one machine out of git. */
export const LOCAL_RULES: readonly string[] = ['.env.local', '.env.*.local']

/** What was done so that git leaves a file alone. */
export type IgnoreOutcome = 'ignored already' | 'ignored now' | 'no repository'

/**
 * Makes sure that git ignores a file before a secret goes into it. Existing rules are respected: git itself says
 * whether the file is ignored, and rules are added only where it is not.
 *
 * @param root the directory of the project
 * @param file the file, relative to it
 * @param rule the rule to add; one for the file if left out
 * @throws {SettingsError} where git tracks the file, so that no rule would help
 */
export async function ensureIgnored(root: string, file: string, rule = `/${file}`): Promise<IgnoreOutcome> {
  if (findRepository(root) === null) return 'no repository'
  if (listTracked(root, [file]).has(file)) {
    throw settingsError(commandProblem('secret-file-tracked', { file }, { file }))
  }
  const already = listIgnoredForAll(root, [file]).has(file)
  if (!already) {
    await addIgnoreRules(root, isLocalFile(file) ? LOCAL_RULES : [rule])
    // A rule further up may take the file back in, so the last word is given to the file itself.
    if (!listIgnored(root, [file]).has(file)) await addIgnoreRules(root, [`/${file}`])
  }
  await excludeHere(root)
  return already ? 'ignored already' : 'ignored now'
}

/** The rule of `.gitignore` goes with another commit, or into a stash; the files with the secrets stay. */
async function excludeHere(root: string): Promise<void> {
  const file = listOwnExcludes(root)
  if (file === null) return
  fs.mkdirSync(path.dirname(file), { recursive: true })
  await updateFile(file, (before) => withIgnoreRules(before ?? '', LOCAL_RULES))
}

/**
 * Adds rules to the `.gitignore` of a directory, those that are not in it yet.
 *
 * @returns true where one was added
 */
export async function addIgnoreRules(root: string, rules: readonly string[]): Promise<boolean> {
  const { changed } = await updateFile(path.join(root, '.gitignore'), (before) => withIgnoreRules(before ?? '', rules))
  return changed
}

/** The text of a `.gitignore` with some rules, those added that are not in it yet. */
export function withIgnoreRules(text: string, rules: readonly string[]): string {
  const lines = text.split(/\r?\n/)
  const eol = text.includes('\r\n') ? '\r\n' : '\n'
  const missing = rules.filter(
    (rule) => lines.lastIndexOf(rule) < lines.lastIndexOf(`!${rule}`) || !lines.includes(rule),
  )
  if (missing.length === 0) return text
  const gap = text === '' || text.endsWith('\n') ? '' : eol
  return `${text}${gap}${missing.join(eol)}${eol}`
}
