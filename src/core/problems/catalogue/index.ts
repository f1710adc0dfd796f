import { definitionProblems } from './definition.ts'
import { envfileProblems } from './envfile.ts'
import { fileProblems } from './files.ts'
import { guardProblems } from './guard.ts'
import { referenceProblems } from './references.ts'
import { valueProblems } from './values.ts'
import { writingProblems } from './writing.ts'

/** Every problem there is, by its code. Nothing else in the project writes a sentence about one. */
export const catalogue = {
  ...envfileProblems,
  ...referenceProblems,
  ...valueProblems,
  ...fileProblems,
  ...definitionProblems,
  ...writingProblems,
  ...guardProblems,
}
