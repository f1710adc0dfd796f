import { json } from './json.ts'
import type { Language } from './language.ts'
import { yaml } from './yaml.ts'

/** Every language that outputs can be checked in. */
const LANGUAGES: readonly Language[] = [json, yaml]

/**
 * The language of an output; `null` where none is known.
 *
 * @param output its path
 * @param usesYaml true for a template with the filter yaml, which is YAML whatever it is called
 */
export function getLanguage(output: string, usesYaml: boolean): Language | null {
  return usesYaml ? yaml : (LANGUAGES.find(({ files }) => files.test(output)) ?? null)
}
