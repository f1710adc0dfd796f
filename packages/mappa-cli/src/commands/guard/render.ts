import { relative } from 'node:path'
import { formatReport } from '@mappa/core/problems/report'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { wrapText } from '@mappa/core/text/wrap'
import type { GuardReport } from '../../analysis/guard/guard.ts'
import type { HookOutcome } from '../../analysis/guard/hook.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printJson, problemAsData } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'

/** Prints what was found, and how far the look went. */
export function printGuard(
  { problems, scanned, notScanned, values }: GuardReport,
  root: string,
  { json }: { json?: boolean },
): void {
  if (json) {
    printJson({ problems: problems.map(problemAsData), scanned, notScanned, values })
    return
  }
  const { paint, width, print } = out
  if (problems.length === 0) print(`${paint.strong('Guard')}: ${describeVerdict(values)}`)
  else print(formatReport({ title: 'Guard', stage: null, problems }, { paint, width, fileLabel: makeLabel(root) }))
  print('')
  const say = (what: string, list: readonly string[]) => {
    if (list.length === 0) return
    const lines = wrapText(`${what}: ${escapeInvisible(list.join('; '))}`, width ?? Number.POSITIVE_INFINITY, '', '  ')
    print(lines.map(paint.faint).join('\n'))
  }
  say('Scanned', scanned)
  say('Not scanned', notScanned)
}

function describeVerdict(values: number): string {
  if (values === 0) return 'nothing found, but no secret has a value here, so there was nothing to search for.'
  return `nothing found. Searched for ${values === 1 ? 'one secret value' : `${values} secret values`}.`
}

/** Says what became of the hook. */
export function printHook({ file, state }: HookOutcome, { json }: { json?: boolean }): void {
  if (json) {
    printJson({ file, state })
    return
  }
  const name = out.paint.strong(escapeInvisible(relative(process.cwd(), file)))
  if (state === 'written')
    out.print(`${name} is installed: it checks staged files before each commit, for every package of this repository.`)
  else if (state === 'added to')
    out.print(
      `${name} now checks staged files first, for every package of this repository, and then runs what it ran before.`,
    )
  else out.print(`${name} already checks staged files, for every package of this repository.`)
}
