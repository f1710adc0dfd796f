import { definitionProblems } from './definition.ts'
import { envfileProblems } from './envfile.ts'
import { fileProblems } from './files.ts'
import { referenceProblems } from './references.ts'
import { valueProblems } from './values.ts'

/** The problems that a program can meet when it loads its settings. Those of commands stand apart: see `all.ts`. */
export const catalogue = {
  ...envfileProblems,
  ...referenceProblems,
  ...valueProblems,
  ...fileProblems,
  ...definitionProblems,
}
