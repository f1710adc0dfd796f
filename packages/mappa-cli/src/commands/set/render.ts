import type { Declaration } from '@mappa/core/definition/definition'
import { hasErrors } from '@mappa/core/problems/problem'
import { formatReport } from '@mappa/core/problems/report'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { type Inspection, toReport } from '@mappa/node/load/inspect'
import type { FormerValue } from '../../analysis/set/former.ts'
import type { MissingSetting } from '../../analysis/set/missing.ts'
import type { Overriding } from '../../analysis/set/overriding.ts'
import type { Written } from '../../analysis/set/write-setting.ts'
import { columns } from '../../terminal/columns.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printJson } from '../../terminal/json.ts'
import { err, out } from '../../terminal/streams.ts'

/** Says where a value was written, and never what it is. */
export function printWritten(
  { name, path }: Declaration,
  written: Written & Overriding & { readonly former: FormerValue | null },
  root: string,
  { json }: { json?: boolean },
): void {
  const { file, line, created, changed, tightened, ignored, overriddenBy, inEnvironment, overrides, former } = written
  if (json) {
    printJson({
      path,
      name,
      ...(former === null ? {} : { former: former.name, formerUntil: former.until }),
      file,
      line,
      created,
      changed,
      tightened,
      ignored: ignored === null ? null : ignored !== 'no repository',
      overriddenBy: inEnvironment ? [...overriddenBy, 'the process environment'] : overriddenBy,
      overrides,
    })
    return
  }
  const { paint, print } = out
  const place = paint.strong(`${makeLabel(root)(file)}:${line}`)
  print(
    changed
      ? `${name} is set in ${place}${created ? ', a new file' : ''}.`
      : `${name} already has this value, in ${place}.`,
  )
  if (former !== null) print(`The value before is ${former.name} now, accepted until ${former.until}.`)
  printOverriding(name, { overriddenBy, inEnvironment, overrides }, makeLabel(root))
  if (tightened) print('Other users could read the file. Its mode is now 600: only you can read it.')
  if (ignored === 'ignored now') print(paint.faint('The file was added to .gitignore.'))
  if (ignored === 'no repository')
    print(paint.faint('This is not a git repository, so the file was not added to .gitignore.'))
}

/** Says what a value does not hold for, or no longer. */
function printOverriding(
  name: string,
  { overriddenBy, inEnvironment, overrides }: Overriding,
  labelOf: (file: string) => string,
): void {
  const { print } = out
  const label = (places: readonly string[]) => places.map(labelOf).join(', ')
  if (overriddenBy.length > 0)
    print(
      `It has no effect where ${label(overriddenBy)} overrides it${overriddenBy.length > 1 ? ', each in its stage' : ''}.`,
    )
  if (inEnvironment)
    print(
      `The environment of this process has ${name} as well, which wins over all files for whatever is started from here.`,
    )
  if (overrides.length > 0)
    print(`In this package it overrides ${label(overrides)}. To change the value for all packages, add --shared.`)
}

/** Lists the settings without a value, for whoever can't be asked. */
export function printMissing(missing: readonly MissingSetting[], stage: string, json: boolean): void {
  if (json) {
    const data = missing.map(({ declaration: { path, name, description, secret }, rules, file }) => {
      return { path, name, description, secret, rules, file }
    })
    printJson({ stage, missing: data })
    return
  }
  const { paint, print } = out
  if (missing.length === 0) {
    print(`${paint.strong(`Settings for ${stage}`)}: nothing is missing.`)
    return
  }
  print(`${paint.strong(`Missing in ${stage}`)}: ${missing.length} setting${missing.length === 1 ? '' : 's'}\n`)
  const rows = missing.map(({ declaration, rules, file }) => [
    paint.strong(declaration.name),
    file,
    escapeInvisible(`${declaration.description} (${rules.join('; ')})`),
  ])
  print(columns([['NAME', 'GOES INTO', 'WHAT IT IS'].map(paint.faint), ...rows]))
  print(`\nAt a terminal, mappa set --missing --stage ${stage} asks for each of them.`)
}

/** Says how many values are asked for. */
export function printAsking(missing: readonly MissingSetting[], stage: string): void {
  if (missing.length === 0) return
  const count = `${missing.length} value${missing.length === 1 ? '' : 's'}`
  err.print(err.paint.faint(`${count} missing in ${stage}. Leave one empty to skip it.`))
}

/** Says what a value is for that is asked for next. */
export function printQuestion({ declaration, rules, file }: MissingSetting): void {
  const { paint, print } = err
  print(`\n${escapeInvisible(declaration.description)}`)
  print(paint.faint(escapeInvisible(`${rules.join('; ')}; goes into ${file}`)))
}

/** Says how the stage stands after all questions. */
export function printOutcome(inspection: Inspection, missing: readonly MissingSetting[]): void {
  const { paint, print, width } = out
  const { stage, problems } = inspection
  if (missing.length > 0)
    print(`Still missing in ${stage}: ${missing.map(({ declaration }) => declaration.name).join(', ')}`)
  else if (hasErrors(problems))
    print(formatReport(toReport(inspection), { paint, width, fileLabel: makeLabel(inspection.root) }))
  else print(`${paint.strong(`Settings for ${stage}`)}: OK, nothing is missing.`)
}
