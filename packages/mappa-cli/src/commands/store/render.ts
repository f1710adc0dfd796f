import { formatReport } from '@mappa/core/problems/report'
import type { Store, StoreHistory } from '@mappa/core/store/store'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import type { Relation, StoreComparison, StoreRow } from '../../analysis/store/compare.ts'
import type { FetchPlan } from '../../analysis/store/fetch.ts'
import type { SendPlan } from '../../analysis/store/send.ts'
import { columns } from '../../terminal/columns.ts'
import { printJson, problemAsData } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'

interface PrintOptions {
  readonly json?: boolean
}

const SIGNS: Readonly<Record<Relation, string>> = {
  same: '=',
  different: '≠',
  missing: '✗',
  here: '←',
  there: '→',
  unset: '–',
  undeclared: '?',
}
const SAYS: Readonly<Record<Relation, string>> = {
  same: 'same',
  different: 'different',
  missing: 'missing there',
  here: 'only here',
  there: 'only there',
  unset: 'in neither',
  undeclared: 'not declared',
}

/** Prints what a store holds, beside what is here. */
export function printComparison(comparison: StoreComparison, { json }: PrintOptions): void {
  const { store, stage, revision, rows, problems } = comparison
  if (json) {
    printJson({ store, stage, revision, settings: rows, problems: problems.map(problemAsData) })
    return
  }
  const { paint, print, width } = out
  print(`${paint.strong(escapeInvisible(`${store}/${stage}`))} at revision ${revision}, and the files here`)
  print(`${describeCounts(rows)}\n`)
  if (rows.length > 0) print(`${getTable(rows)}\n`)
  const used = (Object.keys(SIGNS) as Relation[]).filter((each) => rows.some(({ relation }) => relation === each))
  print(paint.faint(used.map((each) => `${SIGNS[each]} ${SAYS[each]}`).join('  ')))
  if (problems.length > 0)
    print(`\n${formatReport({ stage, problems, title: `Settings for ${stage} in the store` }, { paint, width })}`)
}

function describeCounts(rows: readonly StoreRow[]): string {
  const order: readonly Relation[] = ['same', 'different', 'missing', 'here', 'there', 'undeclared', 'unset']
  const counts = order.map((each) => [rows.filter(({ relation }) => relation === each).length, SAYS[each]] as const)
  return counts.flatMap(([count, says]) => (count === 0 ? [] : [`${count} ${says}`])).join(', ')
}

function getTable(rows: readonly StoreRow[]): string {
  const { paint } = out
  const cells = rows.map(({ name, relation, here, there, revision }) => [
    toSign(relation),
    paint.strong(name),
    here ?? '',
    there ?? '',
    revision === null || there === null ? '' : paint.faint(`@${revision}`),
  ])
  return columns([['', '', 'here', 'there', ''], ...cells])
}

function toSign(relation: Relation): string {
  const { paint } = out
  if (relation === 'missing') return paint.error(SIGNS[relation])
  return relation === 'different' || relation === 'undeclared' ? paint.notice(SIGNS[relation]) : SIGNS[relation]
}

/** Says what is sent to a store, or what was done. */
export function printSend(
  { store, stage, revision }: StoreComparison,
  { rows, removed }: SendPlan,
  state: 'planned' | 'sent' | 'not sent',
  { json }: PrintOptions,
): void {
  const changes = rows.map(({ name, here, there, secret }) => {
    const isRemoved = removed.includes(name)
    return {
      name,
      secret,
      what: isRemoved ? 'remove' : whatHappens(there),
      there,
      here: isRemoved ? null : here,
    }
  })
  if (json) {
    printJson({ store, stage, sent: state === 'sent', revision, changes })
    return
  }
  const { paint, print } = out
  const place = paint.strong(escapeInvisible(`${store}/${stage}`))
  if (changes.length === 0) {
    if (state === 'planned') print(`${place} has all the values that are here.`)
    return
  }
  if (state === 'planned') {
    print(`Changes of ${place}:`)
    const lines = changes.map(({ name, what, here, there }) => [
      `  ${what}`,
      paint.strong(name),
      there ?? '',
      here === null ? '' : `${there === null ? '' : '-> '}${here}`,
    ])
    print(columns(lines))
  } else if (state === 'sent') print(`\nSent: ${place} is at revision ${revision} now.`)
  else print('\nNothing was sent. Add --yes to send it.')
}

const whatHappens = (there: string | null) => (there === null ? 'add' : 'change')

/** Says what is written into files, or what was done. */
export function printFetch(
  { store, stage }: StoreComparison,
  { rows, kept, invalid }: FetchPlan,
  state: 'planned' | 'written' | 'not written',
  { json }: PrintOptions,
): void {
  if (json) {
    const changes = rows.map(({ name, secret, here, there, file }) => ({ name, secret, here, there, file }))
    printJson({ store, stage, written: state === 'written', changes, kept, invalid })
    return
  }
  const { paint, print } = out
  const place = paint.strong(escapeInvisible(`${store}/${stage}`))
  if (state === 'planned') {
    if (rows.length === 0) print(`The files have all that can be read of ${place}.`)
    else print(`Values of ${place}:`)
    const lines = rows.map(({ name, here, there, file }) => [
      `  ${paint.strong(name)}`,
      here ?? '',
      `${here === null ? '' : '-> '}${there}`,
      paint.faint(file),
    ])
    if (lines.length > 0) print(columns(lines))
    if (kept.length > 0) print(paint.notice(`The store keeps to itself: ${kept.join(', ')}`))
    if (invalid.length > 0)
      print(paint.notice(`Not taken, since mappa store compare says what is wrong with them: ${invalid.join(', ')}`))
  } else if (state === 'written')
    print(`\nWritten: ${[...new Set(rows.map(({ file }) => paint.strong(file)))].join(', ')}.`)
  else if (rows.length > 0) print('\nNothing was written. Add --yes to write it.')
}

/** Lists changes. */
export function printHistory(
  store: Store,
  stage: string,
  { events, isCut }: StoreHistory,
  { json }: PrintOptions,
): void {
  if (json) {
    printJson({ store: store.describe(), stage, events, isCut })
    return
  }
  const { paint, print } = out
  print(
    `${paint.strong(escapeInvisible(`${store.describe()}/${stage}`))}: ${events.length} change${events.length === 1 ? '' : 's'}`,
  )
  const rows = events.map(({ revision, at, by, names }) => [
    `  @${revision}`,
    at === null ? paint.faint('time not known') : `${at.slice(0, 19).replace('T', ' ')} UTC`,
    by === null ? paint.faint('by others than mappa') : escapeInvisible(by),
    names.map(({ name, what }) => `${what} ${name}`).join(', '),
  ])
  if (rows.length > 0) print(columns(rows))
  if (isCut) print(paint.faint('The store has forgotten older changes.'))
}
