import type { FilterName } from '@mappa/core/template/filters'
import { json } from './json.ts'
import type { Language } from './language.ts'
import { php } from './php.ts'
import { yaml } from './yaml.ts'

/** Every language that outputs can be checked in. */
const LANGUAGES: readonly Language[] = [json, yaml, php]

/** The languages that outputs can be checked in, by name. */
export const LANGUAGE_NAMES = LANGUAGES.map(({ name }) => name)

/** The language that one of the filters is for alone; `null` where there is none. */
export function getLanguageOfFilters(filters: ReadonlySet<FilterName>): Language | null {
  return LANGUAGES.find(({ filter, ownsFilter }) => ownsFilter === true && filters.has(filter)) ?? null
}

/** The language of an output, by its ending; `null` where none is known. */
export function getLanguage(output: string): Language | null {
  return LANGUAGES.find(({ files }) => files.test(output)) ?? null
}
