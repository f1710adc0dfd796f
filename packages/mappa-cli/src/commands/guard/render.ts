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
  { problems, scanned, notScanned, failed, opaque, values }: GuardReport,
  root: string,
  { json }: { json?: boolean },
): void {
  const opaqueTypes = opaque.map(({ type, count }) => `${type} (${count})`)
  if (json) {
    printJson({ problems: problems.map(problemAsData), scanned, notScanned, failed, opaque: opaqueTypes, values })
    return
  }
  const { paint, width, print } = out
  const found = problems.filter(({ code }) => !NOT_FOUND.has(code))
  if (problems.length > 0)
    print(formatReport({ title: 'Guard', stage: null, problems }, { paint, width, fileLabel: makeLabel(root) }))
  if (found.length === 0)
    print(`${problems.length > 0 ? '\n' : ''}${paint.strong('Guard')}: ${describeVerdict(values, opaque, failed)}`)
  print('')
  const say = (what: string, list: readonly string[]) => {
    if (list.length === 0) return
    const lines = wrapText(`${what}: ${escapeInvisible(list.join('; '))}`, width ?? Number.POSITIVE_INFINITY, '', '  ')
    print(lines.map(paint.faint).join('\n'))
  }
  say('Scanned', scanned)
  say('Opaque', opaqueTypes)
  say('Not scanned', notScanned)
}

/** What says how far the look went, and not what it found. */
const NOT_FOUND: ReadonlySet<string> = new Set(['not-searched', 'not-understood'])

/** "Nothing found" alone is only said where everything that was asked for was read and understood. */
function describeVerdict(values: number, opaque: GuardReport['opaque'], failed: readonly string[]): string {
  const count = opaque.reduce((sum, each) => sum + each.count, 0)
  const parts = [...(count > 0 ? [`${count} opaque`] : []), ...(failed.length > 0 ? [`${failed.length} failed`] : [])]
  const how = parts.length === 0 ? 'nothing found' : `nothing found in what was scanned; ${parts.join(', ')}`
  if (values === 0) return `${how}. No secret has a value here, so it looked for what looks like one.`
  return `${how}. Searched for ${values === 1 ? 'one secret value' : `${values} secret values`}.`
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
