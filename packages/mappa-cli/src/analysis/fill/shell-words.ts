import { fillingProblem } from '@mappa/core/problems/catalogue/filling'
import type { Problem } from '@mappa/core/problems/problem'
import type { Placeholder, TextTemplate } from '@mappa/core/template/placeholders'
import { locator, type TemplateFile } from './fill-text.ts'
import type { FilledPlaceholder, FilledText } from './filled.ts'
import type { Token } from './languages/language.ts'
import { type Draft, toDraft } from './markers.ts'
import { findShellContexts, type ShellContext } from './shell-contexts.ts'

/** Files that are a script as a whole: by their endings, or without any. Of others, each line is a piece of a script at most. */
const SCRIPT = /(?:^|\/)(?:[^./]+|[^/]*\.(?:sh|bash|dash|ksh|zsh|env|envrc|profile|bashrc|zshrc|command))$/i
/** What makes other texts of the word of a shell, so that it is none any more. */
const ENCODERS: ReadonlySet<string> = new Set(['base64', 'url'])

/**
 * Finds values with the filter `sh` that are not where a word of a shell can be: the quotes around them would end those in which they are.
 *
 * @param output the path of the output
 * @param tokens the texts of an output that a parser has taken apart: a script can be one of them
 */
export function findMisplacedWords(
  template: TemplateFile,
  filled: FilledText,
  output: string,
  tokens: readonly Token[],
): readonly Problem[] {
  const words = filled.pieces.filter((each): each is FilledPlaceholder => typeof each !== 'string' && isWord(each))
  if (words.length === 0) return []
  const draft = toDraft(filled)
  const isScript = SCRIPT.test(output) || /^#!.*sh\b/.test(template.text)
  const placeOf = locator(template.file, template.text)
  const contexts = findContexts(words, draft, tokens, isScript)
  return words.flatMap((word) => {
    const { name, start } = word.placeholder
    const context = explainNoWord(word, contexts.get(word.marker) ?? 'code') ?? explainNoText(word, isScript)
    return context === null ? [] : [fillingProblem('no-shell-word', { name, context }, { ...placeOf(start), name })]
  })
}

function isWord({ placeholder }: FilledPlaceholder): boolean {
  return endsAsWord(placeholder) || hasWord(placeholder.word)
}

/** True where a default has such a value in it. */
function hasWord(word: TextTemplate): boolean {
  return word.some((piece) => typeof piece !== 'string' && (endsAsWord(piece) || hasWord(piece.word)))
}

function endsAsWord({ filters }: Placeholder): boolean {
  const last = filters.lastIndexOf('sh')
  return last >= 0 && !filters.slice(last).some((each) => ENCODERS.has(each))
}

/** Where a value is that can't be there, as text; `null` for one that can. */
function explainNoWord({ value, placeholder: { filters } }: FilledPlaceholder, context: ShellContext): string | null {
  if (value.includes('\0')) return 'a shell at all, since it has a NUL character'
  if (context === 'code') return null
  if (context !== 'comment') return context
  const isOneLine = !value.includes('\n') || filters.some((each) => ENCODERS.has(each))
  return isOneLine ? null : 'a comment, since it has several lines'
}

/** What makes something else of the quotes, for a language in which the script is a text. */
const OF_OTHERS: ReadonlySet<string> = new Set(['json', 'xml'])
/** Signs that mean nothing to a shell. */
const PLAIN = /^[\w .,/:=@%+-]*$/

/** What keeps a value from being a word although it is where one can be: what goes with it. */
function explainNoText({ placeholder }: FilledPlaceholder, isScript: boolean): string | null {
  const { filters, word } = placeholder
  if (isScript && filters.slice(filters.lastIndexOf('sh') + 1).some((each) => OF_OTHERS.has(each)))
    return 'a script with another filter behind it'
  return hasWord(word) && !isPlain(word) ? 'a default with quotes or other signs beside it' : null
}

function isPlain(word: TextTemplate): boolean {
  return word.every((piece) => (typeof piece === 'string' ? PLAIN.test(piece) : isPlain(piece.word)))
}

/** The context of each value, by its marker: within the text that a parser found it in, else in the file. */
function findContexts(
  words: readonly FilledPlaceholder[],
  draft: Draft,
  tokens: readonly Token[],
  isScript: boolean,
): ReadonlyMap<string, ShellContext> {
  const found = new Map<string, ShellContext>()
  const markers = new Set(words.map(({ marker }) => marker))
  const scan = (text: string) => {
    const places = [...text.matchAll(draft.pattern)]
    const contexts = findShellContexts(
      text,
      places.map(({ index }) => index),
    )
    for (const [at, [marker]] of places.entries()) if (markers.has(marker)) found.set(marker, contexts[at]!)
  }
  const pieces = tokens.length === 0 && isScript ? [draft.text] : draft.text.split('\n')
  for (const piece of pieces) scan(piece)
  for (const { text } of tokens) scan(text)
  return found
}
