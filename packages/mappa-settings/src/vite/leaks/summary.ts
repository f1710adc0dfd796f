import { describeSkip } from '@mappa/core/problems/skip-reasons'
import { type Coverage, countTypes } from '@mappa/search/read/coverage'
import type { Search } from './wanted.ts'

/** What a search has to say in the end. */
export interface Summary {
  readonly text: string
  /** False where something could not be read. */
  readonly isComplete: boolean
}

/**
 * What was searched, as text, and what could not be.
 *
 * @param directories where the output is, as a person names it
 */
export function summarize(
  { read, opaque, failed }: Coverage,
  { needles, notSearched }: Search,
  directories: readonly string[],
): Summary {
  const names = new Set(needles.map((each) => each.name)).size
  const isAll = opaque.length + failed.length === 0
  const found = `no value of a private setting found${isAll ? '' : ' in what was read'} (searched for ${names})`
  const nothing = 'only for copies of env files, since no private setting has a value to look for'
  const lines = [`mappa: ${count(read, 'file')} searched${names === 0 ? `, ${nothing}` : `; ${found}`}`]
  if (opaque.length > 0) {
    const types = countTypes(opaque).map((each) => `${each.count} ${each.type}`)
    lines.push(`mappa: ${opaque.length} opaque, read byte by byte only: ${types.join(', ')}`)
  }
  if (failed.length > 0) lines.push(`mappa: ${failed.length} not read, and nobody knows what is in them:`)
  lines.push(...failed.map(({ label, reason }) => `  ${label}: ${describeSkip(reason)}`))
  const reasons = new Map<string, string[]>()
  for (const { name, reason } of notSearched) reasons.set(reason, [...(reasons.get(reason) ?? []), name])
  if (reasons.size > 0) lines.push('mappa: not searched for:')
  for (const [reason, own] of reasons) lines.push(`  ${own.join(', ')}: ${reason}`)
  if (directories.length > 0)
    lines.push(
      `mappa: files written after the build are not searched; mappa guard ${directories.join(' ')} searches them`,
    )
  return { text: lines.join('\n'), isComplete: failed.length === 0 }
}

const count = (number: number, word: string) => `${number} ${word}${number === 1 ? '' : 's'}`
