import { fillingProblem } from '@mappa/core/problems/catalogue/filling'
import type { Problem } from '@mappa/core/problems/problem'
import type { Placeholder } from '@mappa/core/template/placeholders'
import { locator, type TemplateFile } from './fill-text.ts'
import type { FilledPlaceholder, FilledText } from './filled.ts'
import { getLanguage, getLanguageOfFilters, LANGUAGE_NAMES } from './languages/index.ts'
import type { Language, Token, ValuePlace } from './languages/language.ts'
import { type Draft, toDraft } from './markers.ts'
import { type Rendered, render } from './rendering.ts'
import { findMisplacedWords } from './shell-words.ts'

/** The text of an output. */
export interface CheckedText {
  readonly text: string
  readonly problems: readonly Problem[]
}

/**
 * Makes the text of a filled template. Where the language of the output has a parser, it checks that every value comes out as it went in,
 * and that nothing else has become another thing.
 *
 * @param filled the template with its values, without problems
 * @param output the path of the output, whose ending names the language
 */
export function checkText(template: TemplateFile, filled: FilledText, output: string): CheckedText {
  const values = filled.pieces.filter((each) => typeof each !== 'string')
  const ofFilters = getLanguageOfFilters(new Set(values.flatMap(({ placeholder }) => placeholder.filters)))
  const language = values.length === 0 ? null : (ofFilters ?? getLanguage(output))
  const tokens = language?.tokens(toDraft(filled).text)
  const words = findMisplacedWords(template, filled, output, tokens !== undefined && 'length' in tokens ? tokens : [])
  if (language === null) {
    const unknown = findUnchecked(template, values, output)
    return { text: getText(filled, () => null, null).text, problems: [...words, ...unknown] }
  }
  const found = checkInLanguage(template, filled, output, language, ofFilters !== null)
  return { ...found, problems: [...words, ...found.problems] }
}

/** Signs that no format takes for something else than a text. */
const PLAIN = /^[\w./:@%+~-]*$/

/** A notice of the values that could mean something in an output of which nothing is known. */
function findUnchecked(
  template: TemplateFile,
  values: readonly FilledPlaceholder[],
  output: string,
): readonly Problem[] {
  const odd = values.filter(({ value, isData, placeholder }) => !isData && !isFitted(placeholder) && !PLAIN.test(value))
  const [first] = odd
  if (first === undefined) return []
  const names = [...new Set(odd.map(({ placeholder }) => placeholder.name))]
  const place = locator(template.file, template.text)(first.placeholder.start)
  return [fillingProblem('format-not-known', { file: output, names, languages: LANGUAGE_NAMES }, place)]
}

/** True where a filter makes the value fit, or each of the values in what stands in for it. */
function isFitted({ filters, word }: Placeholder): boolean {
  const inner = word.filter((piece) => typeof piece !== 'string')
  return filters.length > 0 || (inner.length > 0 && inner.every(isFitted))
}

function checkInLanguage(
  template: TemplateFile,
  filled: FilledText,
  output: string,
  language: Language,
  isDemanded: boolean,
): CheckedText {
  const draft = toDraft(filled)
  const tokens = language.tokens(draft.text)
  const { name, filter } = language
  if (!('length' in tokens)) {
    const details = { file: output, language: name, reason: tokens.reason, filter }
    const place = locator(template.file, template.text)(draft.toTemplateOffset(tokens.offset))
    const { text } = getText(filled, () => null, null)
    // Where no value can break anything that is known, it is told, and the file is made.
    return { text, problems: [fillingProblem(isDemanded ? 'filled-not-valid' : 'output-not-checked', details, place)] }
  }
  const placeIn = findPlaces(tokens, draft)
  const whole = getText(filled, placeIn, language)
  const refused = [...whole.byMarker.values()].some(({ refusal }) => refusal !== null)
  if (!refused && isAsExpected(tokens, draft, whole, language)) return { text: whole.text, problems: [] }
  const placeOf = locator(template.file, template.text)
  const problems = [...draft.byMarker].flatMap(([marker, { placeholder }]) => {
    // Alone among markers, so that it is known which value it is.
    const alone = getText(filled, placeIn, language, marker)
    const refusal = alone.byMarker.get(marker)?.refusal ?? null
    if (refusal === null && isAsExpected(tokens, draft, alone, language)) return []
    const reason = `in ${name} it would be read as something else${refusal === null ? '' : `, since ${refusal}`}`
    const { name: variable, start } = placeholder
    return [
      fillingProblem('value-misplaced', { name: variable, reason, filter }, { ...placeOf(start), name: variable }),
    ]
  })
  const details = { file: output, language: name, reason: 'its values break it together', filter }
  const fallback = fillingProblem('filled-not-valid', details, { file: template.file })
  return { text: whole.text, problems: problems.length > 0 ? problems : [fallback] }
}

/** A text, and what its values are read as; a marker that is still there stands for itself. */
interface Whole {
  readonly text: string
  readonly byMarker: ReadonlyMap<string, Checked>
}

/** A value, and why it can't be written so; `null` where it can. */
interface Checked extends Rendered {
  readonly refusal: string | null
  readonly isData: boolean
}

/** How the text is written that a marker belongs to, and whether it is all of it. */
type PlaceIn = (marker: string) => Pick<ValuePlace, 'style' | 'isWhole'> | null

/** The text with its values; if `only` is given, with that one alone, and markers for all others. */
function getText({ pieces }: FilledText, placeIn: PlaceIn, language: Language | null, only?: string): Whole {
  const byMarker = new Map<string, Checked>()
  const parts: string[] = []
  // With the end of the line before it.
  let lineBefore = ''
  pieces.forEach((piece, index) => {
    let part: string
    if (typeof piece === 'string') part = piece
    else {
      const { marker } = piece
      const after = pieces[index + 1]
      const style = placeIn(marker) ?? { style: null, isWhole: false }
      const place = { ...style, before: lineBefore, after: typeof after === 'string' ? after : '' }
      const isAsked = only === undefined || only === marker
      const value = isAsked ? renderChecked(piece, place, language) : { written: marker, read: marker, refusal: null }
      byMarker.set(marker, { ...value, isData: piece.isData })
      part = value.written
    }
    parts.push(part)
    const lineEnd = part.lastIndexOf('\n')
    lineBefore = lineEnd < 0 ? lineBefore + part : part.slice(lineEnd)
  })
  return { text: parts.join(''), byMarker }
}

function renderChecked(
  piece: FilledPlaceholder,
  place: ValuePlace,
  language: Language | null,
): Omit<Checked, 'isData'> {
  const value = render(piece, place)
  // Quotes around what is in data are its own.
  const own: ValuePlace = piece.isData ? { ...place, style: 'double' } : place
  return { ...value, refusal: language?.refuse?.(value.written, own) ?? null }
}

function findPlaces(tokens: readonly Token[], { pattern }: Draft): PlaceIn {
  const found = new Map<string, Pick<ValuePlace, 'style' | 'isWhole'>>()
  for (const { style, text } of tokens)
    for (const marker of text.match(pattern) ?? []) found.set(marker, { style, isWhole: text === marker })
  return (marker) => found.get(marker) ?? null
}

/** True if the text has the tokens of the draft, with the values where the markers were. */
function isAsExpected(tokens: readonly Token[], { pattern }: Draft, whole: Whole, language: Language): boolean {
  const found = language.tokens(whole.text)
  if (!('length' in found)) return false
  const wanted = tokens.flatMap((token) => expectText(token, whole, pattern, language))
  return wanted.length === found.length && wanted.every((text, index) => text === found[index]!.text)
}

function expectText(
  { style, text }: Token,
  { byMarker }: Whole,
  pattern: RegExp,
  language: Language,
): readonly string[] {
  const own = byMarker.get(text)
  // A list or an object, put in as such.
  if (style === 'plain' && own?.isData === true && /^\s*[[{]/.test(own.written)) {
    const inner = language.tokens(own.written)
    const first = language.tokens('0')
    const head = 'length' in first ? first.length - 1 : 0
    if ('length' in inner) return inner.slice(head).map((each) => each.text)
  }
  return [text.replace(pattern, (marker) => byMarker.get(marker)?.read ?? marker)]
}
