import type { Problem } from '@mappa/core/problems/problem'
import { formatReport } from '@mappa/core/problems/report'
import type { FilledFile } from '../../analysis/fill/fill-stages.ts'
import type { OutputState } from '../../project/outputs.ts'
import { formatDiff } from '../../terminal/diff.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printJson } from '../../terminal/json.ts'
import { err, out } from '../../terminal/streams.ts'
import { diffView } from '../../views/make-diff.ts'

/** Prints a filled template as it is, or as data. */
export function printText({ template, stage, text, hasSecrets }: FilledFile, { json }: { json?: boolean }): void {
  if (json) printJson({ files: [{ file: null, template, stage, secrets: hasSecrets, text }] })
  else out.raw(text)
}

/** Prints notices of what could not be checked, on standard error. */
export function printUnchecked(problems: readonly Problem[]): void {
  if (problems.length === 0) return
  const { paint, width, print } = err
  print(formatReport({ title: 'The outputs', stage: null, problems }, { paint, width }))
}

/** Says which outputs were written, or with `--verify` which are current. */
export function printFilled(
  files: readonly FilledFile[],
  states: readonly OutputState[],
  root: string,
  { json, verify }: { json?: boolean; verify?: boolean },
): void {
  if (json) {
    const data = states.map(({ file, isCurrent, ownerOnly }, index) => {
      const { stage, template } = files[index]!
      return { file, template, stage, secrets: ownerOnly, current: isCurrent, written: !isCurrent && verify !== true }
    })
    printJson({ files: data })
    return
  }
  states.forEach((state, index) => {
    printState(state, files[index]!, makeLabel(root)(state.file), verify === true)
  })
}

function printState(
  { isCurrent, before, text, ownerOnly }: OutputState,
  { stage, template }: FilledFile,
  label: string,
  verify: boolean,
): void {
  const { paint, print } = out
  const name = paint.strong(label)
  const secrets = ownerOnly ? ', with secrets: only you can read it, and git ignores it' : ''
  if (isCurrent) print(`${name} is current.`)
  else if (!verify) print(`${name} is written, from ${template} for ${stage}${secrets}.`)
  else {
    print(`${name} ${before === null ? 'does not exist' : 'is not current'}.`)
    if (before !== null && !ownerOnly) print(`\n${formatDiff(diffView({ file: label, before, after: text }), label)}`)
  }
}
