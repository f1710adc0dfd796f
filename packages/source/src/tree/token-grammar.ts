import type { Grammar } from './grammar.ts'
import { types } from './grammar.ts'
import { readTextValue } from './text-value.ts'
import { buildTokenTree, type TokenRules } from './tokens.ts'

/**
 * What the nodes of a tree of tokens mean.
 *
 * @param isPlain tells the texts in which only a quote and a backslash can be escaped
 * @param commands true for a language that calls without brackets
 */
export function tokenGrammar(
  rules: TokenRules,
  isPlain: (raw: string) => boolean,
  commands: boolean,
): Omit<Grammar, 'readName'> {
  return {
    parse: (text) => buildTokenTree(text, rules),
    texts: types('Text'),
    openTexts: types('Heredoc'),
    formats: types(''),
    numbers: types('Number'),
    joined: types(''),
    calls: types('Arguments'),
    named: types('Statement Member'),
    last: types('Statement'),
    operations: types(''),
    through: types('Round Square Curly Part Heredocs'),
    functions: types(''),
    bodies: types(''),
    returns: types(''),
    noValues: types(''),
    ...(commands ? { commands: types('Statement Member') } : {}),
    valueOf: (raw) => readTextValue(raw, isPlain(raw)),
  }
}
