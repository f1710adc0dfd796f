import { type ConditionalStyle, withChoices } from '../conditionals.ts'
import type { Language } from '../language.ts'
import { AUTHORIZATION, code } from '../lines/lines.ts'
import { findReads, readPatterns, readsVariables } from '../lines/reads.ts'
import type { Source, SourceLiteral, WantedValue } from '../source.ts'
import type { Grammar } from './grammar.ts'
import { findTreeLiterals, type TreeLiteral } from './literals.ts'
import { rewriteByTree, type TreeRewriting } from './rewriting.ts'

/** A language that is read by a syntax tree. */
export interface TreeLanguage {
  readonly name: string
  readonly files: RegExp
  /** What begins a comment to the end of the line. */
  readonly comment: RegExp
  /** How it reads variables, as for `readByLines`. */
  readonly reads: readonly string[]
  readonly grammar: Omit<Grammar, 'readName'>
  /** How it chooses between values; none where it has no such expressions. */
  readonly conditionals?: ConditionalStyle
  /** How its values are replaced; none where its programs can't read a variable. */
  readonly rewriting?: TreeRewriting
}

/** Makes a language of its grammar and of how it reads variables. */
export function readByTree({
  name,
  files,
  comment,
  reads,
  grammar: own,
  conditionals,
  rewriting,
}: TreeLanguage): Language {
  const patterns = readPatterns(reads)
  const grammar: Grammar = { ...own, readName: (text) => nameRead(text, patterns) }
  return {
    name,
    files,
    isPrefiltered: true,
    readsVariables: (text) => readsVariables(text, patterns),
    mayBeMinified: false,
    ...(rewriting === undefined ? {} : { rewriting: rewriteByTree(grammar, rewriting) }),
    read(text, file, isWanted): Source {
      const found = findTreeLiterals({ text, grammar }, grammar.parse(text), file, isWanted && withInner(isWanted))
      const literals = conditionals === undefined ? found : withChoices(text, found, conditionals)
      return {
        literals: literals.flatMap(withHeader).map(({ node: _, ...each }) => each),
        ...findReads(text, file, patterns, (line) => code(line, comment)),
      }
    },
  }
}

function nameRead(text: string, patterns: readonly RegExp[]): string | undefined {
  for (const pattern of patterns) {
    const [found] = text.matchAll(pattern)
    if (found !== undefined) return found[1]
  }
  return undefined
}

/** Wants also texts with something in them that counts for itself. */
function withInner(isWanted: WantedValue): WantedValue {
  return (value, form) => isWanted(value, form) || /authorization|^\$\{[\w.-]+:/i.test(value)
}

/** A text with a whole header in it, and the key in that header. */
function withHeader(literal: TreeLiteral): readonly (SourceLiteral & Pick<TreeLiteral, 'node'>)[] {
  // What is taken out of a text can't stand for the whole of it.
  const { choice: _, ...alone } = literal
  const [, name, given] = /^\$\{([\w.-]+):([^{}]{4,})\}$/.exec(literal.value) ?? []
  // A placeholder with what stands in for it: `@Value("${dome.key:...}")`.
  if (name !== undefined && given !== undefined)
    return [{ ...alone, value: given, names: name.split('.'), callee: null }]
  const [header] = literal.value.matchAll(AUTHORIZATION)
  if (header === undefined) return [literal]
  return [{ ...alone, value: header[1]!, names: ['authorization'], callee: null }]
}
