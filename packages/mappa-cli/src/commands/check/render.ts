import { describeSettings, formatReport } from '@mappa/core/problems/report'
import { type Inspection, toReport } from '@mappa/node/load/inspect'
import type { Lenient } from '../../analysis/check/missing.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printJson, stageAsData } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'

/**
 * Prints the outcome of a check.
 *
 * @param inspections one for each stage that was checked
 */
export function printChecked(
  inspections: readonly Lenient[],
  options: { json?: boolean; reveal?: boolean; all?: boolean },
): void {
  if (options.json) {
    const stages = inspections.map((each) => ({
      ...stageAsData(each, options.reveal === true),
      ...(each.unchecked === undefined ? {} : { unchecked: each.unchecked }),
    }))
    printJson(options.all ? { stages } : stages[0])
    return
  }
  const { paint, width, print } = out
  for (const [index, each] of inspections.entries()) {
    // Reports stand apart; lines that say all is well go together.
    const before = inspections[index - 1]
    if (before !== undefined && before.problems.length + each.problems.length > 0) print('')
    if (each.problems.length === 0) print(fineLine(each))
    else print(formatReport(toReport(each), { paint, width, fileLabel: makeLabel(each.root) }))
    const { unchecked = [] } = each
    if (unchecked.length > 0) print(paint.faint(`  Not checked, since missing here: ${unchecked.join(', ')}`))
  }
}

function fineLine({ stage, program, settings, layers }: Inspection): string {
  const files = layers.filter((layer) => layer.kind === 'file' && layer.state === 'read').map((layer) => layer.title)
  const from = files.length === 0 ? 'no file' : files.join(', ')
  const { paint } = out
  const count = `${settings.length} setting${settings.length === 1 ? '' : 's'}`
  return `${paint.strong(describeSettings(stage, program))}: OK, ${count} ${paint.faint(`(${from})`)}`
}
