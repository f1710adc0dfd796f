import { visible } from '../../core/text/visible.ts'
import type { ProjectLook, SetUp } from '../../node/init/init.ts'
import type { OpenSecret } from '../../node/init/relocate.ts'
import { printJson } from './json.ts'
import { out } from './terminal.ts'

/** Says what was found before anything is written. */
export function printLook({ definition, envFiles, reads, usesVite }: ProjectLook): void {
  const { paint, print } = out
  const found = [
    definition === null ? 'no definition yet' : `a definition (${definition})`,
    envFiles.length === 0 ? 'no env files' : envFiles.join(', '),
    reads.length === 0
      ? 'no reads of variables'
      : `${reads.length} variable${reads.length === 1 ? '' : 's'} that the code reads`,
    ...(usesVite ? ['Vite'] : []),
  ]
  print(paint.faint(`Found: ${visible(found.join('; '))}.`))
}

/** Says what was written, and what comes next. */
export function printSetUp(
  { written, kept, settings, moved, open, unread }: SetUp,
  { inRepository, definition, place }: ProjectLook,
  { json }: { json?: boolean },
): void {
  if (json) {
    printJson({ written, kept, settings, moved, open, unread })
    return
  }
  const { paint, print } = out
  if (written.length === 0 && moved.length === 0)
    print(`Everything is set up already, with ${settings} setting${settings === 1 ? '' : 's'}. Nothing was changed.`)
  else if (written.length > 0) print(`Written: ${written.map((file) => paint.strong(file)).join(', ')}.`)
  if (written.length > 0 && kept.length > 0) print(paint.faint(`Left as they were: ${kept.join(', ')}.`))
  if (!inRepository) print(paint.faint('There is no git repository here, so no ignore rules were written.'))
  const list = (secrets: readonly OpenSecret[]) => secrets.map(({ name, from }) => `${name} (${from})`).join(', ')
  for (const to of new Set(moved.map((each) => each.to)))
    print(`Moved into ${paint.strong(to)}, which git ignores: ${list(moved.filter((each) => each.to === to))}.`)
  if (moved.length > 0 && inRepository)
    print(
      paint.faint('What was ever committed stays in the history: mappa guard --history says which keys to replace.'),
    )
  const contradicted = open.filter((each) => each.contradicted)
  if (contradicted.length > 0)
    print(
      `${paint.error('Secrets with another value in the file of this machine')}, left for you to decide: ${list(contradicted)}.`,
    )
  const left = open.filter((each) => !each.contradicted)
  if (left.length > 0)
    print(
      `${paint.error('Secrets in files that git takes along')}: ${list(left)}. ${paint.strong('mappa init --yes')} moves them.`,
    )
  if (unread.length > 0)
    print(
      `${paint.error("Env files that can't be read in full")}, so secrets may still stand there: ${unread.join(', ')}. ${paint.strong('mappa check')} says why.`,
    )
  if (written.length === 0) return
  const file = definition ?? place
  print(`\nWhat comes next:
  Read ${file}: are kinds, secrets and descriptions right?
  Write values with ${paint.strong('mappa set')}, and see what is missing with ${paint.strong('mappa check --all')}.
  Find what still stands in the code with ${paint.strong('mappa survey')}, and secrets that git has with ${paint.strong('mappa guard --history')}.`)
}
