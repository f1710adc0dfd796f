import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { listLayerFiles } from '@mappa/core/layers/order'
import { type Problem, withLocation } from '@mappa/core/problems/problem'
import { mayBeKeptElsewhere } from '@mappa/core/resolve/rules-between'
import type { Inspection } from '@mappa/node/load/inspect'

/** An inspection whose missing secrets are no problem. Which ones they are is told all the same. */
export interface Lenient extends Inspection {
  /** The variable names of secrets that have no value and were let through. */
  readonly unchecked?: readonly string[]
}

const MISSING: ReadonlySet<Problem['code']> = new Set(['missing', 'empty', 'missing-then'] as const)

/** Leaves out the problems of secrets that have no value. */
export function withoutMissingSecrets(inspection: Inspection): Lenient {
  const secrets = new Set(
    inspection.settings.filter(({ declaration }) => declaration.secret).map(({ declaration }) => declaration.path),
  )
  const isMissing = (each: Problem) =>
    (MISSING.has(each.code) && each.setting !== null && secrets.has(each.setting)) ||
    mayBeKeptElsewhere(each, inspection.settings, ({ secret }) => secret)
  return {
    ...inspection,
    problems: inspection.problems.filter((each) => !isMissing(each)),
    unchecked: inspection.problems.filter(isMissing).flatMap(({ name }) => name ?? []),
  }
}

/** Gives problems of missing values the place at which they belong: the end of a file of the stage. */
export function withPlaces<I extends Inspection>(inspection: I): I {
  const { root, stage, settings, problems } = inspection
  const placed = problems.map((each) => {
    if (each.code !== 'missing' || each.file !== null) return each
    const declaration = settings.find((one) => one.declaration.path === each.setting)?.declaration
    if (declaration === undefined) return each
    const file = listLayerFiles(stage)[declaration.secret ? 3 : 2]
    return withLocation(each, { file, line: findNextLine(join(root, file)), column: 1 })
  })
  return { ...inspection, problems: placed }
}

/** The line behind the last one of a file; the first of one that is not there. */
function findNextLine(file: string): number {
  try {
    const text = readFileSync(file, 'utf8')
    return text.split('\n').length + (text === '' || text.endsWith('\n') ? 0 : 1)
  } catch {
    return 1
  }
}
