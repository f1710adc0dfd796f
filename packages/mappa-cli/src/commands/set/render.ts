import type { Declaration } from '../../../../mappa/src/core/definition/definition.ts'
import type { Written } from '../../analysis/set/write-setting.ts'
import { labelFrom } from '../../terminal/failure.ts'
import { printJson } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'

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
      : `${name} already has this value, in ${place}.`,
  )
  if (tightened) print('Other users could read the file. Its mode is now 600: only you can read it.')
  if (ignored === 'ignored now') print(paint.faint('The file was added to .gitignore.'))
  if (ignored === 'no repository')
    print(paint.faint('This is not a git repository, so the file was not added to .gitignore.'))
}
