/**
 * `mappa/browser`: start-time settings in a page. With `mappa/vite`, a page imports them from `virtual:mappa/browser`, beside
 * those of the build.
 *
 * @packageDocumentation
 */
import type { Definition, StartValues } from '../core/definition/definition.ts'
import { PAYLOAD_ID, type WireShape } from '../core/page/wire.ts'
import { startValueProblems } from '../core/problems/catalogue/start-values.ts'

/**
 * Reads the start-time settings that the server put into this page.
 *
 * @param shape what each of them is, as `mappa/vite` knows; held against nothing if left out
 * @returns the public settings with `readAt: 'start'`, typed by the definition, frozen
 * @throws {Error} named `SettingsError`, saying what is missing or wrong and what to do
 * @example
 * ```ts
 * import { startSettings } from 'mappa/browser'
 * import type definition from './settings.definition.ts'
 *
 * const settings = startSettings<typeof definition>()
 * settings.visitor.notice
 * ```
 */
export function startSettings<D extends Definition>(shape?: WireShape): StartValues<D> {
  const values = startValues(shape)
  const root: Record<string, unknown> = {}
  for (const path in values) {
    const keys = path.split('.')
    const last = keys.pop()!
    let group = root
    for (const key of keys) group = (group[key] ??= {}) as typeof group
    group[last] = values[path]
  }
  return frozen(root) as StartValues<D>
}

/**
 * Reads the same without groups, by path; what `virtual:mappa/browser` is made of.
 *
 * @throws what {@link startSettings} throws
 */
export function startValues(shape?: WireShape): Readonly<Record<string, unknown>> {
  const data = payload()
  const values: Record<string, unknown> = {}
  const faults: string[] = []
  for (const path in shape ?? data) {
    const [code, ...words] = [shape?.[path] ?? 'j'].flat() as string[]
    const value = data[path]
    if (value === undefined) {
      if (!code!.endsWith('?')) faults.push(sentence('payload-lacks', path))
    } else {
      values[path] = read(code!, value)
      if (values[path] === undefined || (words[0] && !words.includes(value as string)))
        faults.push(sentence('payload-value-wrong', path))
    }
  }
  if (faults[0]) fail(faults.join('\n'))
  return frozen(values)
}

function payload(): Record<string, unknown> {
  if (typeof document === 'undefined') fail(sentence('payload-no-page'))
  const found = document.querySelectorAll(`#${PAYLOAD_ID}`)
  if (found.length !== 1) fail(sentence(found[0] ? 'payload-twice' : 'payload-missing'))
  const text = found[0]!.textContent
  if (!text?.trim()) fail(sentence('payload-empty'))
  try {
    // A list has no paths, and no value then.
    return Object.assign(Object.create(null), JSON.parse(text!))
  } catch {
    fail(sentence('payload-broken'))
  }
}

/** The value that a code stands for; `undefined` where it is another. */
function read(code: string, value: any): unknown {
  const kind = code[0]
  const type = typeof value
  if (kind === 'a') {
    const items = Array.isArray(value) && value.map((each) => read(code.slice(1), each))
    return items && !items.includes(undefined) ? items : undefined
  }
  if (kind === 'j') return value
  if (kind === 'd') {
    const date = new Date(type === 'string' ? value : Number.NaN)
    return Number.isNaN(+date) ? undefined : date
  }
  if (kind === 'y') {
    try {
      return Uint8Array.from(atob(value), (each) => each.charCodeAt(0))
    } catch {}
  } else if (type[0] === kind) return value
}

function frozen<T>(value: T): T {
  if (typeof value === 'object' && value) {
    for (const each of Object.values(value)) frozen(each)
    if (!ArrayBuffer.isView(value)) Object.freeze(value)
  }
  return value
}

/** A sentence and its hint. Of the words in braces there is at most one. */
function sentence(code: keyof ReturnType<typeof startValueProblems>, detail = ''): string {
  const { message, hint } = startValueProblems()[code]
  return `${message}\n→ ${hint}`.replace(/\{\w+}/, () => detail)
}

function fail(message: string): never {
  throw Object.assign(Error(message), { name: 'SettingsError' })
}
