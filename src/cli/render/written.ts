import type { Declaration } from '../../core/definition/definition.ts'
import type { Written } from '../../node/writing/write-setting.ts'
import { labelFrom } from './failure.ts'
import { printJson } from './json.ts'
import { out } from './terminal.ts'

/** Says where a value was written, and never what it is. */
export function printWritten(
  { name, path }: Declaration,
  { file, line, created, changed, tightened, ignored }: Written,
  root: string,
  { json }: { json?: boolean },
): void {
  if (json) {
    printJson({
      path,
      name,
      file,
      line,
      created,
      changed,
      tightened,
      ignored: ignored === null ? null : ignored !== 'no repository',
    })
    return
  }
  const { paint, print } = out
  const place = paint.strong(`${labelFrom(root)(file)}:${line}`)
  print(
    changed
      ? `${name} is set in ${place}${created ? ', a new file' : ''}.`
      : `${name} has this value already, in ${place}.`,
  )
  if (tightened) print('Other users could read the file. Its mode is 600 now, so that only you can.')
  if (ignored === 'ignored now') print(paint.faint('git was told to ignore the file: see .gitignore.'))
  if (ignored === 'no repository')
    print(paint.faint('There is no git repository here, so nothing was told to ignore the file.'))
}
