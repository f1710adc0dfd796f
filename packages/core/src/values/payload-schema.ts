import type { Declaration } from '../definition/definition.ts'

/** The id of the element that carries the runtime settings of a page. */
export const PAYLOAD_ID = 'mappa-settings'

/** How JSON carries a runtime setting, in the letters of `payload` of its kind; with `?` at the end, the value may be left out. */
export type PayloadType = string

/** What a page expects of each runtime setting, by path: a code, or a code and the only texts there are. */
export type PayloadShape = Readonly<Record<string, PayloadType | readonly [PayloadType, ...string[]]>>

/** What a page expects of these settings. */
export function toShape(settings: readonly Declaration[]): PayloadShape {
  return Object.fromEntries(
    settings.map(({ path, kind, options, optional }) => {
      const code = `${kind.type.payload(options)}${optional ? '?' : ''}`
      const values = kind.values?.(options)
      return [path, values === undefined ? code : [code, ...values]]
    }),
  )
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
