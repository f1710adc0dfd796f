import { publicValueProblem } from '../problems/catalogue/public-values.ts'
import { checkOptionNames } from '../problems/option-names.ts'
import type { Problem } from '../problems/problem.ts'
import { SettingsError } from '../problems/settings-error.ts'
import type { ResolvedSetting } from '../resolve/resolved-setting.ts'
import { getResolved } from '../resolve/values.ts'
import { PAYLOAD_ID, toPayload } from '../values/payload-schema.ts'
import { escapeForScript } from './escape.ts'
import { findPublicFaults } from './public-values.ts'

/** Options of {@link publicPayload}, {@link fillPage} and `fillPages`. */
export interface PayloadOptions {
  /**
   * Private settings, by their variable names, whose values may be in pages. Secrets may not.
   * @default []
   */
  readonly allowInPage?: readonly string[]
}

/**
 * Makes what carries the runtime settings into a page: an element of data, not of code, that is safe anywhere inside the
 * head or body of an HTML page, whatever the values hold, and needs no leave of a content security policy.
 *
 * @param settings what `loadSettings` gave back, whole
 * @param options what pages may have
 * @returns the element; an empty text where no public setting has `readAt: 'runtime'`
 * @throws {TypeError} for anything but settings that were loaded in this program
 * @throws {SettingsError} where a value can't be written as JSON, or holds that of a setting that is not public
 * @example
 * ```ts
 * response.end(`<!doctype html><html><head>${publicPayload(settings)}</head>...`)
 * ```
 */
export function publicPayload(settings: object, options: PayloadOptions = {}): string {
  checkOptionNames(options, ['allowInPage'], 'publicPayload')
  if (options.allowInPage !== undefined && !Array.isArray(options.allowInPage))
    throw new TypeError('The option allowInPage of publicPayload must be a list of names of variables.')
  const resolved = getResolved(settings)
  if (resolved === undefined) throw new TypeError('publicPayload takes what loadSettings gave back, whole.')
  const allowed = options.allowInPage?.join() ?? ''
  const known = faults.get(settings)
  const problems = known?.allowed === allowed ? known.problems : findPublicFaults(resolved, options)
  faults.set(settings, { allowed, problems })
  if (problems.length > 0) throw new SettingsError({ title: 'Runtime settings', stage: null, problems })
  return writePayload(resolved)
}

/** What is wrong with public values, checked once for all pages. */
const faults = new WeakMap<object, { readonly allowed: string; readonly problems: readonly Problem[] }>()

/** The same of settings that were resolved, whether or not others among them are complete. */
export function writePayload(settings: readonly ResolvedSetting[]): string {
  const shown = settings.filter(({ declaration }) => declaration.readAt === 'runtime')
  if (shown.length === 0) return ''
  const data: Record<string, unknown> = {}
  const problems = []
  for (const { declaration, value } of shown) {
    const { path, name } = declaration
    if (value === undefined) continue
    data[path] = toPayload(value)
    if (data[path] === undefined)
      problems.push(publicValueProblem('public-not-data', { path }, { setting: path, name }))
  }
  if (problems.length > 0) throw new SettingsError({ title: 'Runtime settings', stage: null, problems })
  return payloadElement(JSON.stringify(data))
}

/** The element of data; with no JSON, the place that a server fills. */
export function payloadElement(json: string): string {
  return `<script type="application/json" id="${PAYLOAD_ID}">${escapeForScript(json)}</script>`
}

/** The element in a page, also where a minifier took its quotes away. */
const ELEMENT = new RegExp(`<script\\b(?=[^>]*\\sid=["']?${PAYLOAD_ID}["'\\s>])[^>]*>[^<]*</script\\s*>`, 'gi')

/** True for a page with a place for runtime settings. */
export function hasPayloadPlace(html: string): boolean {
  return html.search(ELEMENT) >= 0
}

/**
 * Puts the runtime settings into a built page, in the place that the build left for them. A page that was filled before
 * gets the new values; one that needs none stays as it is.
 *
 * @param html the page
 * @param settings what `loadSettings` gave back, whole
 * @param options what pages may have
 * @throws what {@link publicPayload} throws
 * @example
 * ```ts
 * const page = readFileSync('dist/index.html', 'utf8')
 * serve((request, response) => response.end(fillPage(page, settings)))
 * ```
 */
export function fillPage(html: string, settings: object, options: PayloadOptions = {}): string {
  return withPayload(html, publicPayload(settings, options))
}

/** A page with another payload in its place. */
export function withPayload(html: string, payload: string): string {
  return html.replace(ELEMENT, () => payload)
}
