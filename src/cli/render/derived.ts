import type { DerivedState } from '../../node/writing/write-derived.ts'
import { diffOf } from './diff.ts'
import { labelFrom } from './failure.ts'
import { printJson } from './json.ts'
import { out } from './terminal.ts'

/** Says whether a derived file was right, and shows what differs where it was not and nothing was written. */
export function printDerived(
  { file, command, right, before, after, written }: DerivedState & { file: string; command: string },
  root: string,
  { json }: { json?: boolean },
): void {
  if (json) {
    printJson({ file, right, written })
    return
  }
  const { paint, print } = out
  const label = labelFrom(root)(file)
  const name = paint.strong(label)
  if (right) print(`${name} is up to date.`)
  else if (written) print(`${name} is written.`)
  else {
    print(
      `${name} ${before === null ? 'does not exist' : 'is not what the definition says'}. mappa write ${command} mends it.\n`,
    )
    print(diffOf(label, before ?? '', after))
  }
}
