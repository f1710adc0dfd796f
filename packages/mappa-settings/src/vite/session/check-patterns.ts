import { pathToFileURL } from 'node:url'
import type { Definition } from '@mappa/core/definition/definition'
import { listPatterns } from '@mappa/core/definition/patterns'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { findCommandPart } from '@mappa/node/project/command-part'

/** What the project's command brings for this. */
interface Command {
  readonly checkPatterns: (definition: Definition) => Promise<void>
}

/**
 * Has the patterns of a definition checked by the project's `mappa-cli`. It takes a parser of regular expressions, which no program
 * needs.
 *
 * @param root the directory of the project
 * @returns a notice where there are patterns and no command to check them
 * @throws {SettingsError} naming every pattern that takes very long on some text
 */
export async function checkPatterns(definition: Definition, root: string): Promise<readonly Problem[]> {
  const patterns = listPatterns(definition)
  if (patterns.length === 0) return []
  const file = findCommandPart(root, 'patterns')
  if (file === null) {
    const paths = [...new Set(patterns.map(({ path }) => path))].join(', ')
    return [pageProblem('patterns-not-checked', { paths })]
  }
  const command = (await import(pathToFileURL(file).href)) as Command
  await command.checkPatterns(definition)
  return []
}
