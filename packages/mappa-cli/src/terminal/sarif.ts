import type { Problem } from '@mappa/core/problems/problem'
import { version } from '@mappa/core/version'
import { type Found, type SarifPlaces, sarifOfFindings, sarifOfProblems } from '../views/sarif.ts'
import { printJson } from './json.ts'

/** Where files lie: the directory of the project, and the top directory of its repository. */
export interface Places {
  readonly root: string
  readonly repository: string | null
}

/** Prints problems as a log of SARIF 2.1.0. */
export function printProblemsAsSarif(problems: readonly Problem[], places: Places): void {
  printJson(sarifOfProblems(problems, toSarifPlaces(places), version))
}

/** Prints findings of a survey as such a log. */
export function printSurveyAsSarif(survey: Found, places: Places): void {
  printJson(sarifOfFindings(survey, toSarifPlaces(places), version))
}

function toSarifPlaces({ root, repository }: Places): SarifPlaces {
  return { root, base: repository ?? root }
}
