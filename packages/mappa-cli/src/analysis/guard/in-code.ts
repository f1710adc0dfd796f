import type { Definition } from '@mappa/core/definition/definition'
import { isSearchable } from '@mappa/core/values/encodings'
import { type SearchedSecret, toNeedles } from '@mappa/search/needles'
import { surveyProject } from '../survey/survey.ts'

/** Where a survey looks, and what it knows of. */
interface Surveyed {
  readonly root: string
  readonly definition: Definition
}

/** Secrets that still stand in the code, which no setting has yet. */
export function collectCodeNeedles({ root, definition }: Surveyed, known: readonly SearchedSecret[]): SearchedSecret[] {
  const texts = new Set(known.flatMap(({ patterns }) => patterns.map(({ text }) => text)))
  return surveyProject(root, definition)
    .findings.filter(({ secret, value }) => secret && isSearchable(value) && !texts.has(value))
    .flatMap(({ name, path: setting, value }) => toNeedles(name, setting, value))
}
