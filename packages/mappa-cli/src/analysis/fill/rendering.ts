import { applyFilter } from '@mappa/core/template/filters'
import { escapeYaml, quoteYaml } from '../export/yaml-string.ts'
import type { FilledPlaceholder } from './filled.ts'
import type { ValuePlace } from './languages/language.ts'

/** A value as it is written, and what a reader of the file gets. */
export interface Rendered {
  readonly written: string
  readonly read: string
}

/** Applies the filters of a placeholder. */
export function render({ placeholder: { filters }, value }: FilledPlaceholder, place: ValuePlace): Rendered {
  const line = { before: place.before.slice(place.before.lastIndexOf('\n') + 1) }
  // A block of lines has a line break at its end, whether the value has one or not.
  const isBlock = (place.style === 'literal' || place.style === 'folded') && /^[ \t]*(?:\n|$)/.test(place.after)
  let read = isBlock && filters.every((each) => each === 'yaml' || each === 'indent') ? value.replace(/\n$/, '') : value
  let written = read
  for (const filter of filters) {
    if (filter === 'yaml') written = inYaml(read, place, line)
    else if (filter === 'json' || filter === 'php') written = applyFilter(filter, read, line)
    else if (filter === 'indent') written = applyFilter(filter, written, line)
    else {
      read = applyFilter(filter, read, line)
      written = read
    }
  }
  return { written, read }
}

/** A text in YAML, quoted as needed for where it stands. */
function inYaml(text: string, { style, isWhole }: ValuePlace, line: { readonly before: string }): string {
  if (style === 'double') return escapeYaml(text)
  if (style === 'single') return text.replaceAll("'", "''")
  if (style === 'literal' || style === 'folded') return applyFilter('indent', text, line)
  return isWhole ? quoteYaml(text) : text
}
