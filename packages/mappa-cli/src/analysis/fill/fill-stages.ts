import { hasErrors, type Problem } from '@mappa/core/problems/problem'
import type { Inspection } from '@mappa/node/load/inspect'
import { environmentProblems } from '../../project/shared-environment.ts'
import { checkText } from './checked-text.ts'
import { fillText, listFaults, type TemplateFile } from './fill-text.ts'
import { makeLookup } from './lookup.ts'

/** A template filled for one stage. */
export interface FilledFile {
  readonly template: string
  readonly stage: string
  /** The name of the output, as {@link fillStages} was told. */
  readonly output: string
  readonly text: string
  readonly hasSecrets: boolean
}

/** What came of filling templates in. */
export interface FilledStages {
  readonly files: readonly FilledFile[]
  /** All that is wrong in any of them; a problem of a template is told once, not for each stage. */
  readonly problems: readonly Problem[]
  /** The names whose values come from the environment of this process. */
  readonly environmental: readonly string[]
}

/**
 * Fills templates in, each for every stage.
 *
 * @param nameFor the name of an output
 * @param withSecrets true to put secrets in, too
 */
export function fillStages(
  templates: readonly TemplateFile[],
  inspections: readonly Inspection[],
  nameFor: (template: string, stage: string) => string,
  withSecrets: boolean,
): FilledStages {
  const files: FilledFile[] = []
  const environmental: string[] = []
  const problems = [
    ...templates.flatMap(listFaults),
    ...inspections.flatMap((each) => environmentProblems(each.problems)),
  ]
  for (const inspection of inspections) {
    const lookup = makeLookup(inspection)
    for (const template of templates) {
      const { stage } = inspection
      const filled = fillText(template, lookup, withSecrets)
      problems.push(...filled.problems)
      if (hasErrors(problems)) continue
      const output = nameFor(template.file, stage)
      const checked = checkText(template, filled, output)
      problems.push(...checked.problems)
      files.push({ template: template.file, stage, output, text: checked.text, hasSecrets: filled.hasSecrets })
    }
    environmental.push(...lookup.environmental)
  }
  return { files, problems: removeRepeats(problems), environmental }
}

/** Leaves each problem once: a name that nobody declared is missing in every stage. */
function removeRepeats(problems: readonly Problem[]): readonly Problem[] {
  const seen = new Set<string>()
  return problems.filter(({ code, file, line, column, message }) => {
    const key = [code, file, line, column, message].join('\n')
    return !seen.has(key) && seen.add(key)
  })
}
