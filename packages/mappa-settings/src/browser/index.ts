/**
 * `mappa-settings/browser`: runtime settings in a page. With `mappa-settings/vite`, a page imports them from `virtual:mappa/browser`, beside
 * those of the build.
 *
 * @module mappa-settings/browser
 */
import type { Definition, RuntimeData } from '@mappa/core/definition/definition'
import { RUNTIME_VALUE_TEXTS, type RuntimeValueCode } from '@mappa/core/problems/catalogue/runtime-values'
import { PAYLOAD_ID, type PayloadShape } from '@mappa/core/values/payload-schema'

/**
 * Reads the runtime settings that the server put into this page.
 *
 * @param shape what each of them is, as `mappa-settings/vite` knows; held against nothing if left out
 * @returns the public settings with `readAt: 'runtime'`, typed by the definition, frozen; dates and bytes as JSON has them
 * @throws {Error} named `SettingsError`, saying what is missing or wrong and what to do
 * @example
 * ```ts
 * import { runtimeSettings } from 'mappa-settings/browser'
 * import type definition from './settings.definition.ts'
 *
 * const settings = runtimeSettings<typeof definition>()
 * settings.visitor.notice
 * ```
 */
export function runtimeSettings<D extends Definition>(shape?: PayloadShape): RuntimeData<D> {
  const values = runtimeValues(shape)
  const root: Record<string, unknown> = Object.create(null)
  for (const path in values) {
    path.split('.').reduce((group, key, index, { length }) => {
      group[key] ??= index < length - 1 ? Object.create(null) : values[path]
      return group[key] as typeof root
    }, root)
  }
  return freeze(root) as RuntimeData<D>
}

/**
 * Reads the same without groups, by path; what `virtual:mappa/browser` is made of.
 *
 * @throws what {@link runtimeSettings} throws
 */
export function runtimeValues(shape?: PayloadShape): Readonly<Record<string, unknown>> {
  const data = readPayload()
  const values: Record<string, unknown> = Object.create(null)
  let faults = ''
  for (const path in shape ?? data) {
    const [code, ...words] = [shape?.[path] ?? 'j'].flat() as string[]
    const value = data[path]
    if (value === undefined) {
      if (!code!.endsWith('?')) faults += formatSentence('payload-lacks', path)
    } else {
      values[path] = read(code!, value)
      if (values[path] === undefined || (words[0] && !words.includes(value as string)))
        faults += formatSentence('payload-value-wrong', path)
    }
  }
  if (faults) fail(faults)
  return freeze(values)
}

function readPayload(): Record<string, unknown> {
  if (typeof document === 'undefined') fail(formatSentence('payload-no-page'))
  const found = document.querySelectorAll(`#${PAYLOAD_ID}`)
  if (found.length !== 1) fail(formatSentence('payload-not-one', found.length))
  const text = found[0]!.textContent
  if (!text?.trim()) fail(formatSentence('payload-empty'))
  try {
    // A list has no paths, and no value then.
    return Object.assign(Object.create(null), JSON.parse(text!))
  } catch {
    fail(formatSentence('payload-broken'))
  }
}

/** The value that a code stands for; `undefined` where it is another. */
// biome-ignore lint/suspicious/noExplicitAny: it comes from outside, and each use looks at what it is.
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
  return type[0] === kind ? value : undefined
}

function freeze<T>(value: T): T {
  if (typeof value !== 'object' || !value) return value
  Object.values(value).forEach(freeze)
  return Object.freeze(value)
}

function formatSentence(code: RuntimeValueCode, path: string | number = ''): string {
  return `${RUNTIME_VALUE_TEXTS[code].replace('{path}', `${path}`)}\n`
}

function fail(message: string): never {
  throw Object.assign(Error(message), { name: 'SettingsError' })
}
