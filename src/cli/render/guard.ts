import { relative } from 'node:path'
import { formatReport } from '../../core/problems/report.ts'
import { fold } from '../../core/text/fold.ts'
import { visible } from '../../core/text/visible.ts'
import type { GuardReport } from '../../node/guard/guard.ts'
import type { HookOutcome } from '../../node/guard/hook.ts'
import { labelFrom } from './failure.ts'
import { printJson, problemAsData } from './json.ts'
import { out } from './terminal.ts'

/** Prints what was found, and how far the look went. */
export function printGuard(
  { problems, looked, notLooked }: GuardReport,
  root: string,
  { json }: { json?: boolean },
): void {
  if (json) {
    printJson({ problems: problems.map(problemAsData), looked, notLooked })
    return
  }
  const { paint, width, print } = out
  if (problems.length === 0) print(`${paint.strong('Guard')}: no secret where it must not be.`)
  else print(formatReport({ title: 'Guard', stage: null, problems }, { paint, width, fileLabel: labelFrom(root) }))
  print('')
  const say = (what: string, list: readonly string[]) => {
    if (list.length === 0) return
    const lines = fold(`${what}: ${visible(list.join('; '))}`, width ?? Number.POSITIVE_INFINITY, '', '  ')
    print(lines.map(paint.faint).join('\n'))
  }
  say('Looked at', looked)
  say('Not looked at', notLooked)
}

/** Says what became of the hook. */
export function printHook({ file, state }: HookOutcome, { json }: { json?: boolean }): void {
  if (json) {
    printJson({ file, state })
    return
  }
  const name = out.paint.strong(visible(relative(process.cwd(), file)))
  if (state === 'written') out.print(`${name} is written: it runs mappa guard --staged before each commit.`)
  else if (state === 'added to') out.print(`${name} now runs mappa guard --staged first, then what it ran before.`)
  else out.print(`${name} runs mappa guard --staged already.`)
}
