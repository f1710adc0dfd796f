import { binary, utf8 } from '../values/bytes.ts'

/** Where a value goes, for filters that have to know. */
export interface FilterPlace {
  /** The text before it on its line, as it will be. */
  readonly before: string
}

/** Makes a value fit where it goes. */
type Filter = (text: string, place: FilterPlace) => string

/**
 * The filters of placeholders. A new one is one entry. `yaml` has to know the whole file, so whoever fills a template in does its work;
 * until then it leaves the value as it is.
 */
const FILTERS = {
  json: (text, { before }) => {
    const string = JSON.stringify(text)
    return isInString(before) ? string.slice(1, -1) : string
  },
  yaml: (text) => text,
  xml: (text) => text.replace(/[&<>"']/g, (each) => `&#${each.charCodeAt(0)};`),
  sh: (text) => `'${text.replaceAll("'", "'\\''")}'`,
  php: (text) => `'${text.replace(/[\\']/g, '\\$&')}'`,
  base64: (text) => btoa(binary(utf8(text))),
  url: (text) => encodeURIComponent(text),
  indent: (text, { before }) => {
    const [margin = ''] = /^[ \t]*/.exec(before) ?? []
    return text.replace(/\n(?=[^\n])/g, `\n${margin}`)
  },
} as const satisfies Readonly<Record<string, Filter>>

/** The name of a filter. */
export type FilterName = keyof typeof FILTERS

/** The names of all filters. */
export const FILTER_NAMES = Object.keys(FILTERS) as readonly FilterName[]

/** True for the name of a filter. */
export function isFilter(name: string): name is FilterName {
  return Object.hasOwn(FILTERS, name)
}

/**
 * Makes a value fit where it goes.
 *
 * @example
 * ```ts
 * applyFilter('base64', 'fog', { before: 'key: ' }) // 'Zm9n'
 * applyFilter('json', 'a "b"', { before: '{ "x": "' }) // 'a \\"b\\"'
 * ```
 */
export function applyFilter(name: FilterName, text: string, place: FilterPlace): string {
  return FILTERS[name](text, place)
}

/** True within double quotes that are open on the line: only what goes between them is missing. */
function isInString(before: string): boolean {
  return (before.replace(/\\./g, '').match(/"/g)?.length ?? 0) % 2 === 1
}
