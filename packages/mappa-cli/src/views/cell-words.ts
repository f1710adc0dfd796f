import type { CellView } from './overview.ts'

/** What a cell says first: the value, or why there is none. */
export function valueWords({ state, shown, mark }: CellView): string {
  if (state === 'missing') return 'missing'
  if (state === 'unset') return 'not set'
  if (mark !== null) return 'secret'
  return shown ?? (state === 'invalid' ? 'invalid' : '')
}

/** What a cell says below that: a word for what is to be noticed about it, and how much it matters. */
export interface Badge {
  readonly text: string
  readonly tone: 'error' | 'notice' | 'news' | 'plain'
}

/** The badges of a cell, the most important first. */
export function toBadges(
  { overdue, overridden, sameAs, severity, state }: CellView,
  stage: string,
  isChanged: boolean,
): readonly Badge[] {
  const badges: Badge[] = []
  const others = sameAs.filter((each) => each !== stage)
  if (others.length > 0) badges.push({ text: sameWords(others), tone: 'error' })
  if (state === 'invalid') badges.push({ text: 'invalid', tone: 'error' })
  if (overdue) badges.push({ text: 'overdue', tone: 'notice' })
  if (severity === 'error' && badges.length === 0 && state !== 'missing') badges.push({ text: 'error', tone: 'error' })
  if (severity === 'notice' && badges.length === 0) badges.push({ text: 'notice', tone: 'notice' })
  if (isChanged) badges.push({ text: 'changed', tone: 'news' })
  if (overridden.length > 0) badges.push({ text: `overrides ${overridden.join(', ')}`, tone: 'plain' })
  return badges
}

/** More stages than this are counted. */
const MOST_NAMED = 2

function sameWords(others: readonly string[]): string {
  return others.length > MOST_NAMED ? `same as ${others.length} other stages` : `same as ${others.join(' and ')}`
}

/** Where a value comes from, in words: the layer it is inherited from, or its place. */
export function sourceWords({ state, from }: CellView): string {
  if (state === 'default') return 'default'
  if (from === null) return ''
  return state === 'inherited' ? `inherited from ${from}` : from
}

/** The class names of a cell: what it is, and how bad. */
export function cellClass({ mark, severity, state }: CellView): string {
  const bad = severity === null ? '' : ` cell--${severity}`
  return `cell cell--${state}${bad}${mark === null ? '' : ' cell--secret'}`
}
