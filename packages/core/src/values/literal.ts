import { escapeForScript } from '../page/escape.ts'

/**
 * Writes a value as JavaScript, so that it stands in the code of a page.
 *
 * @returns an expression without effects, safe also within a script element of HTML; `null` for what can't be written:
 *   functions, symbols, instances of classes, and objects that hold themselves
 */
export function toLiteral(value: unknown, above: readonly unknown[] = []): string | null {
  if (typeof value === 'string') return textLiteral(value)
  if (value === null || value === undefined || typeof value === 'boolean') return String(value)
  if (typeof value === 'number') return Object.is(value, -0) ? '-0' : String(value)
  if (typeof value === 'bigint') return `${value}n`
  if (typeof value !== 'object' || above.includes(value)) return null
  if (value instanceof Date) return `/* @__PURE__ */ new Date(${value.getTime()})`
  if (value instanceof Uint8Array) return `/* @__PURE__ */ Uint8Array.of(${value.join()})`
  const inner = [...above, value]
  if (Array.isArray(value)) {
    const items = value.map((each) => toLiteral(each, inner))
    return items.includes(null) ? null : `[${items.join()}]`
  }
  return objectLiteral(value, inner)
}

function objectLiteral(value: object, inner: readonly unknown[]): string | null {
  const prototype: unknown = Object.getPrototypeOf(value)
  if (prototype !== null && Object.getPrototypeOf(prototype) !== null) return null
  const members = Object.entries(value).map(([key, each]) => [textLiteral(key), toLiteral(each, inner)] as const)
  if (members.some(([, each]) => each === null)) return null
  // Without the brackets, the key __proto__ would be no key.
  return `{${members.map(([key, each]) => `${key === '"__proto__"' ? `[${key}]` : key}:${each}`).join()}}`
}

const textLiteral = (text: string) => escapeForScript(JSON.stringify(text))
