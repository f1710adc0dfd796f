import { formatReport } from '@mappa/core/problems/report'
import type { Inspection } from '@mappa/node/load/inspect'
import type { Exported } from '../../analysis/export/export-stage.ts'
import type { OutputState } from '../../project/outputs.ts'
import { environmentProblems } from '../../project/shared-environment.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printFromEnvironment } from '../../terminal/from-environment.ts'
import { printJson } from '../../terminal/json.ts'
import { err, out } from '../../terminal/streams.ts'

/** Prints what another program is to read, to the letter; or as data. */
export function printContent(
  content: string,
  { names, leftOut }: Exported,
  { stage, format, json }: { stage: string; format: string; json?: boolean },
): void {
  if (json) printJson({ stage, format, content, names, leftOut })
  else {
    out.raw(content)
    printLeftOut(leftOut)
  }
}

/** Lists the secrets that are not in an export, on standard error. */
function printLeftOut(names: readonly string[]): void {
  if (names.length === 0) return
  err.print(err.paint.faint(`Left out, since they are secrets: ${names.join(', ')} (--with-secrets includes them)`))
}

/** Says on standard error what was taken from the environment of this process, and what was not: it may be that of another stage. */
export function printEnvironment({ problems, settings, stage }: Inspection, { names }: Exported): void {
  const { paint, width, print } = err
  const said = environmentProblems(problems)
  if (said.length > 0) print(formatReport({ title: 'The environment', stage, problems: said }, { paint, width }))
  const own = settings
    .filter(({ origin }) => origin?.layer === 'environment')
    .map(({ declaration }) => declaration.name)
  printFromEnvironment(own.filter((name) => names.includes(name)))
}

/** Says which files were written. */
export function printOutputs(
  states: readonly OutputState[],
  { names, leftOut }: Exported,
  { root, stage, format, json }: { root: string; stage: string; format: string; json?: boolean },
): void {
  const written = states.filter((each) => !each.isCurrent)
  if (json) {
    const files = states.map(({ file, isCurrent }) => ({ file, written: !isCurrent }))
    printJson({ stage, format, files, names, leftOut })
    return
  }
  const { paint, print } = out
  const label = makeLabel(root)
  const count = `${names.length} value${names.length === 1 ? '' : 's'} of ${stage}`
  for (const { file } of states.length > 1 ? [] : states) {
    print(`${paint.strong(label(file))} ${written.length === 0 ? 'is up to date' : 'is written'}, with ${count}.`)
  }
  if (states.length > 1) {
    const names = states.map(({ file }) => label(file)).join(', ')
    print(`${count}, ${written.length === 0 ? 'all up to date' : `${written.length} written`}: ${names}`)
  }
  printLeftOut(leftOut)
}
