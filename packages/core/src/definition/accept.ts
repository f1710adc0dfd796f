import { copyFrozen } from '../values/copy-frozen.ts'
import type { Declaration } from './definition.ts'
import type { Conversion, Failure } from './kinds/failure.ts'
import { failure } from './kinds/failure.ts'
import { type Item, type Kind, NO_TEXT, type Options } from './kinds/kind.ts'

/** What a setting makes of a value: the value as a program gets it, and everything that is wrong with it. */
export interface Acceptance {
  /** Frozen and shared with nobody; `undefined` where it is not of the kind at all. */
  readonly value: unknown
  readonly failures: readonly Failure[]
}

/** What a value is accepted by: a setting, or the items of one. */
type Accepting = Pick<Declaration, 'kind' | 'options' | 'checks'>

/**
 * Takes a text for a setting: converted, and held against all rules.
 *
 * @param text as a layer has it; not empty, unless the setting may be empty
 */
export function acceptText(accepting: Accepting, text: string): Acceptance {
  return applyRules(accepting, accepting.kind.convert(text, accepting.options))
}

/**
 * Takes a typed value for a setting, such as a default: held against the same rules as a text. A text is converted where the kind
 * is written as one, such as `15m`.
 */
export function acceptValue(accepting: Accepting, value: unknown): Acceptance {
  return applyRules(accepting, readTyped(accepting, value))
}

/** True for a kind whose typed values can be given as the texts that they are read from. */
function takesText(kind: Kind): boolean {
  return kind.readsText === true || kind.schema.type === 'string'
}

function readTyped({ kind, options }: Accepting, value: unknown): Conversion<unknown> {
  if (typeof value === 'string' && takesText(kind)) return kind.convert(value, options)
  const item = kind.items?.(options)
  if (item !== undefined && Array.isArray(value)) return readItems(item, value)
  if (!kind.isValid(value)) return refuseOtherKind({ kind, options }, value)
  if (kind.unchecked === true) return { value }
  // What the kind refuses as text it refuses as a value, too: a port 0, three bytes where four are wanted.
  const read = kind.convert(kind.toText(value, options), options)
  return 'failure' in read ? read : { value }
}

/** Says of a number or the like what the kind says of the same as text: that tells more than which kind it is not of. */
function refuseOtherKind({ kind, options }: Item, value: unknown): { failure: Failure } {
  const read = typeof value === 'number' || typeof value === 'boolean' ? kind.convert(String(value), options) : null
  return read !== null && 'failure' in read
    ? { failure: read.failure }
    : failure('value-of-other-kind', { kind: kind.name })
}

function readItems({ kind, options, checks = [] }: Item, items: readonly unknown[]): Conversion<unknown> {
  const failures: Failure[] = []
  // Not `map`, which steps over what a list leaves out.
  const value = Array.from(items, (each, at) => {
    const read: Acceptance =
      each === ''
        ? { value: undefined, failures: [failure('item-empty', {}).failure] }
        : acceptValue({ kind, options, checks }, each)
    const item = { index: at + 1, text: writeValue(kind, read.failures.length === 0 ? read.value : each, options) }
    failures.push(...read.failures.map((failed) => ({ ...failed, item })))
    return read.value
  })
  const [first, ...more] = failures
  return first === undefined ? { value } : { failure: first, more }
}

function applyRules({ checks }: Accepting, converted: Conversion<unknown>): Acceptance {
  if ('failure' in converted) return { value: undefined, failures: [converted.failure, ...(converted.more ?? [])] }
  // Before the rules, so that a check of the project's own can't change what the program gets.
  const value = copyFrozen(converted.value)
  const failures: Failure[] = []
  for (const check of checks) {
    const failed = check(value)
    if (failed !== null) failures.push(failed)
  }
  return { value, failures }
}

/**
 * Writes a typed value as the text of its kind. What is of another kind is described, so that a message can show it.
 *
 * @param value any value, also one that no setting can have
 */
export function writeValue(kind: Kind, value: unknown, options: Options): string {
  if (typeof value === 'string') return value
  try {
    if (kind.isValid(value)) return kind.toText(value, options)
    return typeof value === 'object' ? (JSON.stringify(value) ?? NO_TEXT) : String(value)
  } catch {
    return NO_TEXT
  }
}
