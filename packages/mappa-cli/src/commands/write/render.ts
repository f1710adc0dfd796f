import type { Problem } from '@mappa/core/problems/problem'
import { formatReport } from '@mappa/core/problems/report'
import type { DerivedState } from '@mappa/node/fs/write-derived'
import { formatDiff } from '../../terminal/diff.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printJson } from '../../terminal/json.ts'
import { err, out } from '../../terminal/streams.ts'
import { diffView } from '../../views/make-diff.ts'

/** A derived file and how it was found. */
export interface DerivedFile extends DerivedState {
  /** Relative to the root. */
  readonly file: string
}

/** Says whether derived files were right, and shows what differs where they were not and nothing was written. */
export function printDerived(
  states: readonly DerivedFile[],
  command: string,
  root: string,
  { json }: { json?: boolean },
): void {
  if (json) {
    const data = states.map(({ file, right, written, isForeign }) => ({
      file,
      right,
      written,
      ...(isForeign ? { foreign: true } : {}),
    }))
    printJson(data.length === 1 ? data[0] : { files: data })
    return
  }
  const { paint, print } = out
  for (const { file, right, before, after, written, isForeign } of states) {
    const label = makeLabel(root)(file)
    const name = paint.strong(label)
    if (right) print(`${name} is up to date.`)
    else if (written) print(`${name} is written.`)
    else if (isForeign) print(`${name} was not written by mappa, so it stays as it is.`)
    else {
      const state = before === null ? 'does not exist' : 'is out of date'
      print(`${name} ${state}. Run mappa write ${command} to update it.\n`)
      print(formatDiff(diffView({ file: label, before, after }), label))
    }
  }
}

/** Says how the compiler finds misspelled names of the environment, where it does not do so yet. */
export function printStrictNames(): void {
  const { paint, print } = out
  print(
    paint.faint(
      'To have process.env.NAME refused where the definition has no NAME, set "noPropertyAccessFromIndexSignature": true in tsconfig.json.',
    ),
  )
}

/** Says what was not written, and why. */
export function printProblems(problems: readonly Problem[]): void {
  const report = { title: 'Derived files', stage: null, problems }
  err.print(`\n${formatReport(report, { paint: err.paint, width: err.width })}`)
}
