import type { Declaration } from '../definition/definition.ts'
import type { Kind } from '../definition/kinds/kind.ts'
import { string } from '../definition/kinds/string.ts'
import type { AnySetting } from '../definition/setting.ts'

/** The id of the element that carries the runtime settings of a page. */
export const PAYLOAD_ID = 'mappa-settings'

/**
 * How the value of a runtime setting is written in JSON, in letters that a page can carry: `s` text, `n` number, `b` true or
 * false, `d` a `Date` as RFC 3339 writes it, `j` any JSON; `a` before another letter is a list of such, bytes among them as
 * numbers; and `?` at the end stands for a value that may be left out.
 */
export type PayloadType = string

/** What a page expects of each runtime setting, by path: a code, or a code and the only texts there are. */
export type PayloadShape = Readonly<Record<string, PayloadType | readonly [PayloadType, ...string[]]>>

/** What a page expects of these settings. */
export function shapeOf(settings: readonly Declaration[]): PayloadShape {
  return Object.fromEntries(
    settings.map(({ path, kind, options, optional }) => {
      const code = `${codeOf(kind, options.items as AnySetting | undefined)}${optional ? '?' : ''}`
      return [path, kind.name === 'choice' ? [code, ...(options.enum as readonly string[])] : code]
    }),
  )
}

function codeOf({ schema }: Kind, items: AnySetting | undefined): PayloadType {
  const { type, format, contentEncoding } = schema
  if (type === 'array') return `a${codeOf(items?.kind ?? (string as Kind), undefined)}`
  if (type === 'number' || type === 'integer') return 'n'
  if (type === 'boolean') return 'b'
  if (type !== 'string') return 'j'
  return format === 'date-time' ? 'd' : contentEncoding === 'base64' ? 'an' : 's'
}

/**
 * A value as JSON can hold it.
 *
 * @returns data, or `undefined` where JSON would not give back the same: functions, instances of classes, numbers without end
 */
export function toPayload(value: unknown): unknown {
  if (value instanceof Date) return value.toISOString()
  if (value instanceof Uint8Array) return Array.from(value)
  if (Array.isArray(value) && value.some((each) => each instanceof Date || each instanceof Uint8Array))
    return value.map(toPayload)
  return isJson(value, []) ? value : undefined
}

function isJson(value: unknown, above: readonly unknown[]): boolean {
  if (value === null || typeof value === 'string' || typeof value === 'boolean') return true
  if (typeof value === 'number') return Number.isFinite(value) && !Object.is(value, -0)
  if (typeof value !== 'object' || above.includes(value)) return false
  const prototype: unknown = Object.getPrototypeOf(value)
  if (!Array.isArray(value) && prototype !== Object.prototype && prototype !== null) return false
  const inner = [...above, value]
  return Object.values(value).every((each) => isJson(each, inner))
}
