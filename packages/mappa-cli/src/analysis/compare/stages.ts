import { isForAllStages } from '@mappa/core/layers/env-file-name'
import { isFileOfStages } from '@mappa/core/layers/order'
import type { Problem } from '@mappa/core/problems/problem'
import type { Resolution } from '@mappa/core/resolve/resolve'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { displayValue } from '@mappa/core/secret/display'
import { type Marks, makeMarks } from './marks.ts'
import { compareMeanings } from './meanings.ts'
import { type Cell, type CellState, type Comparison, EMPTY, getRelation } from './table.ts'

/**
 * Puts stages side by side.
 *
 * @param inspections one for each stage, of the same definition, with all problems that it has
 * @param marks for masked values; drawn anew if left out
 * @returns a row for each setting, in the order of the definition
 */
export function compareStages(inspections: readonly Resolution[], marks: Marks = makeMarks()): Comparison {
  const first = inspections[0]?.settings ?? []
  return {
    columns: inspections.map(({ stage }) => stage),
    rows: first.map(({ declaration: { name, path, secret } }, index) => {
      const found = inspections.map(({ settings }) => settings[index]!)
      const meanings = compareMeanings(found)
      return {
        name,
        path,
        secret,
        relation: getRelation(meanings),
        cells: found.map((each, column) => toCell(each, inspections[column]!, meanings[column]!, marks)),
      }
    }),
  }
}

function toCell(setting: ResolvedSetting, inspection: Resolution, meaning: string | null, marks: Marks): Cell {
  const { masked, origin, text } = setting
  return {
    state: getState(setting, inspection),
    shown: masked || text === undefined ? null : showText(setting, text),
    mark: masked && meaning !== null ? marks(meaning) : null,
    origin,
    problems: listErrors(setting, inspection).map(({ code }) => code),
  }
}

/** Errors; a notice is nothing that two stages could be compared by. */
function listErrors({ declaration }: ResolvedSetting, { problems }: Resolution): readonly Problem[] {
  return problems.filter(({ setting, severity }) => setting === declaration.path && severity === 'error')
}

/** How a setting stands in a stage. */
export function getState(
  { origin, text, valid }: ResolvedSetting,
  { ancestors }: Pick<Resolution, 'ancestors'>,
): CellState {
  if (text === undefined) {
    if (valid) return 'unset'
    return origin === null ? 'missing' : 'invalid'
  }
  if (!valid) return 'invalid'
  if (origin?.layer === 'defaults') return 'default'
  if (origin === null) return 'set'
  return isForAllStages(origin.layer) || isFileOfStages(origin.layer, ancestors) ? 'inherited' : 'set'
}

/** As the program gets it: `yes` is shown as true. */
function showText({ declaration, valid, value }: ResolvedSetting, text: string): string {
  const known = valid && typeof value !== 'string' ? declaration.kind.toText(value, declaration.options) : text
  return displayValue(known, { secret: false, bare: true, widest: Number.POSITIVE_INFINITY }) || EMPTY
}
