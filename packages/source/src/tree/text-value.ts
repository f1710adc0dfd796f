import { listQuotes } from './literals.ts'

const SINGLE: Readonly<Record<string, string>> = {
  n: '\n',
  t: '\t',
  r: '\r',
  b: '\b',
  f: '\f',
  v: '\v',
  0: '\0',
  a: '\x07',
  e: '\x1b',
}
const ESCAPE = /\\(?:x([\da-fA-F]{2})|u([\da-fA-F]{4})|U([\da-fA-F]{8})|u\{([\da-fA-F]{1,6})\}|(\r?\n)|([\s\S]))/g

/**
 * The value of a text in quotes.
 *
 * @param raw with its quotes, and what stands before them
 * @param isPlain true where only a quote and a backslash can be escaped
 */
export function readTextValue(raw: string, isPlain: boolean): string {
  const [opening, closing] = listQuotes(raw)
  const inner = raw.slice(opening, raw.length - closing)
  if (!inner.includes('\\')) return inner
  if (/^[bf]?r[bf]?["'#]|^`|^[$]?@/i.test(raw)) return inner
  if (isPlain) return inner.replace(/\\(["'\\])/g, '$1')
  return inner.replace(
    ESCAPE,
    (whole, x?: string, u?: string, long?: string, braced?: string, line?: string, single?: string) => {
      if (line !== undefined) return ''
      const point = x ?? u ?? long ?? braced
      if (point === undefined) return SINGLE[single!] ?? single!
      const code = Number.parseInt(point, 16)
      return code > 0x10ffff ? whole : String.fromCodePoint(code)
    },
  )
}
