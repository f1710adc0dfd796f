import { describeSkip } from '@mappa/core/problems/skip-reasons'
import { isInside, toRelativePath } from '@mappa/node/fs/places'
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
 * @param command what searches the output again; `null` where nothing was written
 */
export function summarize(coverage: Coverage, { needles, notSearched }: Search, command: string | null): Summary {
  const lines = listFound(coverage, needles, `${count(coverage.read, 'file')} searched`)
  const reasons = new Map<string, string[]>()
  for (const { name, reason } of notSearched) reasons.set(reason, [...(reasons.get(reason) ?? []), name])
  if (reasons.size > 0) lines.push('mappa: not searched for:')
  for (const [reason, own] of reasons) lines.push(`  ${own.join(', ')}: ${reason}`)
  if (command !== null)
    lines.push(`mappa: what another program writes there later is not searched; ${command} searches it`)
  return { text: lines.join('\n'), isComplete: coverage.failed.length === 0 }
}

/** What was searched when the process ended, and was not there before; an empty text for nothing. */
export function summarizeLate(coverage: Coverage, { needles }: Search): string {
  if (coverage.read + coverage.failed.length === 0) return ''
  return listFound(coverage, needles, `${count(coverage.read, 'more file')} searched at the end`).join('\n')
}

/** What was found, and what of it was not understood. */
function listFound({ opaque, failed }: Coverage, needles: Search['needles'], searched: string): string[] {
  const names = new Set(needles.map((each) => each.name)).size
  const isAll = opaque.length + failed.length === 0
  const found = `no value of a private setting found${isAll ? '' : ' in what was read'} (searched for ${names})`
  const nothing = 'only for copies of env files, since no private setting has a value to look for'
  const lines = [`mappa: ${searched}${names === 0 ? `, ${nothing}` : `; ${found}`}`]
  if (opaque.length > 0) {
    const types = countTypes(opaque).map((each) => `${each.count} ${each.type}`)
    lines.push(`mappa: ${opaque.length} opaque, read byte by byte only: ${types.join(', ')}`)
  }
  if (failed.length > 0) lines.push(`mappa: ${failed.length} not read, and nobody knows what is in them:`)
  return [...lines, ...failed.map(({ label, reason }) => `  ${label}: ${describeSkip(reason)}`)]
}

/** The command that searches directories, from where this process was started: the guard looks for its project there and above. */
export function guardCommand(root: string, directories: ReadonlySet<string>): string | null {
  if (directories.size === 0) return null
  const here = process.cwd()
  const isInProject = isInside(here, root)
  const words = [...directories].map((each) => toWord(toRelativePath(isInProject ? here : root, each)))
  return `${isInProject ? '' : `cd ${toWord(toRelativePath(here, root))} && `}mappa guard ${words.join(' ')}`
}

/** A path as a word of a command, in every shell. */
const toWord = (path: string) => (/^[\w./:@+-]+$/.test(path) ? path : `"${path === '' ? '.' : path}"`)

const count = (number: number, word: string) => `${number} ${word}${number === 1 ? '' : 's'}`
