import { fillingProblem } from '@mappa/core/problems/catalogue/filling'
import type { Location, Problem } from '@mappa/core/problems/problem'
import { applyFilter, FILTER_NAMES } from '@mappa/core/template/filters'
import {
  type ParsedText,
  type Placeholder,
  type PlaceholderFault,
  parsePlaceholders,
  type TextTemplate,
} from '@mappa/core/template/placeholders'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import { makeLocator } from '@mappa/core/text/locator'
import { isWellFormed } from '@mappa/core/text/well-formed'
import type { FilledText } from './filled.ts'
import type { Lookup, LookupResult } from './lookup.ts'
import { chooseMarkerPrefix, toMarker } from './markers.ts'

/** A template, read. */
export interface TemplateFile extends ParsedText {
  /** The path to name in problems. */
  readonly file: string
  readonly text: string
}

/** Reads a template; `isOurs` tells the names that are filled in, if not all are. */
export function readTemplate(file: string, text: string, isOurs?: (name: string) => boolean): TemplateFile {
  return { file, text, ...parsePlaceholders(text, isOurs) }
}

/** The problems of what looks like placeholders and is none. */
export function listFaults({ file, text, faults }: TemplateFile): readonly Problem[] {
  const placeOf = locator(file, text)
  return faults.map((fault) => toFaultProblem(fault, text.slice(fault.start, fault.end), placeOf(fault.start)))
}

function toFaultProblem({ code, filter }: PlaceholderFault, written: string, place: Location): Problem {
  if (code === 'placeholder-nested') return fillingProblem(code, {}, place)
  if (code !== 'filter-unknown') return fillingProblem(code, { written }, place)
  const near = makeClosestMatch(FILTER_NAMES)(filter!)
  return fillingProblem(code, { filter: JSON.stringify(filter), filters: FILTER_NAMES, near }, place)
}

/**
 * Puts the values of a stage into a template.
 *
 * @param withSecrets true to put secrets in, too
 */
export function fillText({ file, text, pieces }: TemplateFile, lookup: Lookup, withSecrets: boolean): FilledText {
  const filling = new Filling(lookup, withSecrets, locator(file, text))
  const prefix = chooseMarkerPrefix(text)
  const filled = pieces.map((piece, index) => {
    if (typeof piece === 'string') return piece
    const value = filling.valueOf(piece)
    if (!isWellFormed(value)) filling.reportMisplaced(piece, 'it has half a character', 'base64')
    return { placeholder: piece, value, isData: filling.isData(piece), marker: toMarker(prefix, index) }
  })
  return { pieces: filled, prefix, problems: filling.problems, hasSecrets: filling.hasSecrets }
}

class Filling {
  readonly problems: Problem[] = []
  hasSecrets = false
  readonly #lookup: Lookup
  readonly #withSecrets: boolean
  readonly #placeOf: (offset: number) => Location

  constructor(lookup: Lookup, withSecrets: boolean, placeOf: (offset: number) => Location) {
    this.#lookup = lookup
    this.#withSecrets = withSecrets
    this.#placeOf = placeOf
  }

  reportMisplaced({ name, start }: Placeholder, reason: string, filter: string): void {
    this.#report(fillingProblem('value-misplaced', { name, reason, filter }, this.#at(name, start)))
  }

  /** What a placeholder comes to, without its filters; an empty text beside a problem. */
  valueOf(placeholder: Placeholder): string {
    const { name, start, operator, word } = placeholder
    const { stage } = this.#lookup
    const found = this.#lookup.find(name)
    const place = this.#at(name, start)
    if (found.state === 'unknown')
      return this.#report(fillingProblem('name-not-declared', { name, near: found.near }, place))
    if (found.state === 'invalid') return this.#report(fillingProblem('value-not-valid', { name, stage }, place))
    const isEmpty = operator.startsWith(':') ? getText(found) === '' : found.state === 'unset'
    if (operator.endsWith('+')) return isEmpty ? '' : this.#words(word)
    if (isEmpty && operator.endsWith('-')) return this.#words(word)
    if (isEmpty && operator.endsWith('?')) {
      const why = this.#words(word) || 'the template requires one'
      return this.#report(fillingProblem('value-demanded', { name, stage, why }, place))
    }
    if (found.state !== 'value') return this.#report(fillingProblem('value-not-set', { name, stage }, place))
    if (found.secret && !this.#withSecrets) return this.#report(fillingProblem('secret-not-filled', { name }, place))
    if (found.secret) this.hasSecrets = true
    return found.text
  }

  /** True for a value of JSON, and for a default that has no value in it. */
  isData({ name, operator, word }: Placeholder): boolean {
    const found = this.#lookup.find(name)
    const isWord = operator.endsWith('+') || (operator.endsWith('-') && getText(found) === '')
    if (isWord) return word.every((piece) => typeof piece === 'string')
    return found.state === 'value' && found.isJson
  }

  #words(word: TextTemplate): string {
    return word.map((piece) => (typeof piece === 'string' ? piece : this.#filtered(piece))).join('')
  }

  #filtered(placeholder: Placeholder): string {
    return placeholder.filters.reduce(
      (text, filter) => applyFilter(filter, text, { before: '' }),
      this.valueOf(placeholder),
    )
  }

  #at(name: string, start: number): Location {
    return { ...this.#placeOf(start), name, stage: this.#lookup.stage }
  }

  #report(found: Problem): '' {
    this.problems.push(found)
    return ''
  }
}

function getText(found: LookupResult): string {
  return found.state === 'value' ? found.text : ''
}

/** Finds the locations of places in a template. */
export function locator(file: string, text: string): (offset: number) => Location {
  const positionOf = makeLocator(text)
  return (offset) => ({ file, ...positionOf(offset) })
}
