import type { EnvEntry } from './entry.ts'

/** The comment line above an entry that says when it was set. */
const DAY_LINE = /^[ \t]*# set (\d{4}-\d{2}-\d{2})[ \t]*\r?\n$/

/** Writes the comment line, without a line end. */
export function writeDayComment(day: string): string {
  return `# set ${day}`
}

/** The day on which an entry was set, and where the line that says so stands; `null` where none does. */
export function findDayLine(text: string, entry: EnvEntry): { day: string; from: number; to: number } | null {
  const to = findLineStart(text, entry)
  if (to < 2) return null
  const from = text.lastIndexOf('\n', to - 2) + 1
  const day = DAY_LINE.exec(text.slice(from, to).replace(/^\ufeff/, ''))?.[1]
  return day === undefined ? null : { day, from: text.charCodeAt(from) === 0xfeff ? from + 1 : from, to }
}

/** Where the line of an entry begins, behind a byte-order mark. */
export function findLineStart(text: string, entry: EnvEntry): number {
  const start = entry.start - (entry.column - 1)
  return start === 0 && text.charCodeAt(0) === 0xfeff ? 1 : start
}
