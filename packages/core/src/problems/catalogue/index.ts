import { definitionProblems } from './definition.ts'
import { envfileProblems } from './envfile.ts'
import { fileProblems } from './files.ts'
import { referenceProblems } from './references.ts'
import { valueProblems } from './values.ts'

let made: ReturnType<typeof make> | undefined

const make = () => ({
  ...envfileProblems(),
  ...referenceProblems(),
  ...valueProblems(),
  ...fileProblems(),
  ...definitionProblems(),
})

/**
 * The problems that a program can meet when it loads its settings. Those of commands stand apart: see `all.ts`. Functions
 * make them, so that a program that finds nothing wrong does not even take the sentences in.
 */
export const catalogue = () => {
  made ??= make()
  return made
}
