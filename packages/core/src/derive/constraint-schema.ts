import type { Declaration } from '../definition/definition.ts'
import { MAX_PATTERN_LENGTH } from '../definition/kinds/constraints.ts'

/** A part of a JSON Schema (2020-12). */
export type Schema = { [member: string]: unknown }

/** A schema, and the rules that it does not express, as text. */
export interface Expressed {
  readonly schema: Schema
  readonly notExpressed: readonly string[]
}

/** The constraints of a setting under their names, which are those of JSON Schema already. */
export function constraintSchema({ kind, options }: Pick<Declaration, 'kind' | 'options'>): Expressed {
  const schema: Schema = {}
  const notExpressed: string[] = []
  for (const name of kind.constraints) {
    const limit = options[name]
    if (limit === undefined || name === 'pattern') continue
    schema[name] = limit
  }
  if (options.pattern !== undefined) {
    const pattern = patternText(options.pattern)
    if (pattern === null) notExpressed.push(`the pattern ${String(options.pattern)}`)
    else schema.pattern = pattern
    schema.maxLength ??= MAX_PATTERN_LENGTH
  }
  if (options.check !== undefined) notExpressed.push('a check of the project')
  return { schema, notExpressed }
}

/**
 * The source of a pattern, if it means the same in JSON Schema, which reads it with the flag `u` and no other; `null` if not.
 * Without `u`, what can match half a character would match another text.
 */
function patternText(pattern: string | RegExp): string | null {
  if (typeof pattern === 'string') return pattern
  const { source, flags } = pattern
  const rest = flags.replace(/[dgyu]/g, '')
  const matchesHalves = !flags.includes('u') && /\.|\[\^|\\[DSWB]|[^\u0000-\u007f]|\\u/.test(source)
  if (rest !== '' || matchesHalves) return null
  try {
    new RegExp(source, 'u')
    return source
  } catch {
    return null
  }
}

/** What a schema does not express, as its comment. */
export function comment(notExpressed: readonly string[]): Schema {
  return notExpressed.length === 0 ? {} : { $comment: `Not expressed here: ${notExpressed.join('; ')}.` }
}
