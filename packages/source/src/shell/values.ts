import type { SourceLiteral } from '../source.ts'

/**
 * The value of a literal as the shell reads it (POSIX.1-2017, Shell Command Language, 2.2): in single quotes everything stands for
 * itself, elsewhere a backslash keeps a character as it is.
 *
 * @returns nothing for a text that the shell makes of others, which has no fixed value
 */
export function readShellValue(text: string, literal: SourceLiteral): readonly SourceLiteral[] {
  if (literal.form !== 'text') return [literal]
  const raw = text.slice(literal.start, literal.end)
  const quote = /^(["'])[\s\S]*\1$/.exec(raw)?.[1]
  if (quote === "'") return [{ ...literal, value: raw.slice(1, -1) }]
  const inner = quote === undefined ? raw : raw.slice(1, -1)
  if (/(?<!\\)(?:\\\\)*[$`]/.test(inner)) return []
  const value = inner.replace(quote === undefined ? /\\([\s\S])/g : /\\([$`"\\]|\n)/g, (_, each: string) =>
    each === '\n' ? '' : each,
  )
  return [{ ...literal, value }]
}
