import { isMultiple } from '../../text/decimal.ts'
import { integerPattern } from '../../text/integer-pattern.ts'
import { toMeaning } from '../../text/meaning.ts'
import { type Failure, failure } from './failure.ts'

/**
 * The constraints, under their names in JSON Schema (2020-12, validation vocabulary).
 *
 * Lengths count Unicode code points, as there.
 */
export interface Constraint {
  /** What its argument must be, as text. */
  readonly expected: string
  /** The rule that an argument makes, as text. */
  readonly describe: (argument: never) => string
  /** True for an argument that makes sense. */
  readonly isValid: (argument: unknown) => boolean
  /** Makes the check once, so that a thousand values can be put to it quickly. */
  readonly check: (argument: never, options: Readonly<Record<string, unknown>>) => (value: never) => Failure | null
}

function constraint<Argument, Value>(
  expected: string,
  describe: (argument: Argument) => string,
  isValid: (argument: unknown) => boolean,
  check: (argument: Argument, options: Readonly<Record<string, unknown>>) => (value: Value) => Failure | null,
): Constraint {
  return { expected, describe, isValid, check }
}

/** A pattern is tried on values of up to so many characters, unless the setting has a `maxLength` of its own. */
export const MAX_PATTERN_LENGTH = 5000

const isNumber = (argument: unknown) => typeof argument === 'number' && Number.isFinite(argument)
const isLength = (argument: unknown) => Number.isSafeInteger(argument) && (argument as number) >= 0

/** A pattern as a regular expression: with the flag `u`, as JSON Schema asks, unless it brings flags of its own. */
function toExpression(pattern: string | RegExp): RegExp {
  return typeof pattern === 'string'
    ? new RegExp(pattern, 'u')
    : new RegExp(pattern.source, pattern.flags.replace(/[gy]/g, ''))
}

function isPattern(argument: unknown): boolean {
  if (argument instanceof RegExp) return true
  if (typeof argument !== 'string') return false
  try {
    toExpression(argument)
    return true
  } catch {
    return false
  }
}

/** The length in code points, without taking a long text apart where the quick answer will do. */
function measureLength(text: string): number {
  let length = text.length
  for (let i = 0; i < text.length - 1; i++) {
    if ((text.charCodeAt(i) & 0xfc00) === 0xd800 && (text.charCodeAt(i + 1) & 0xfc00) === 0xdc00) {
      length--
      i++
    }
  }
  return length
}

const limit = (
  code: 'below-minimum' | 'not-above' | 'above-maximum' | 'not-below',
  words: string,
  breaks: (value: number, limit: number) => boolean,
) =>
  constraint<number, number>(
    'a number',
    (limit) => `${words} ${limit}`,
    isNumber,
    (limit) => (value) => (breaks(value, limit) ? failure(code, { limit }).failure : null),
  )

/** Every constraint by its name. A kind names those that fit it. */
export const constraints = {
  minimum: limit('below-minimum', 'at least', (value, limit) => value < limit),
  exclusiveMinimum: limit('not-above', 'more than', (value, limit) => value <= limit),
  maximum: limit('above-maximum', 'at most', (value, limit) => value > limit),
  exclusiveMaximum: limit('not-below', 'less than', (value, limit) => value >= limit),
  multipleOf: constraint<number, number>(
    'a number above 0',
    (of) => `a multiple of ${of}`,
    (argument) => isNumber(argument) && (argument as number) > 0,
    (of) => (value) => (isMultiple(value, of) ? null : failure('not-multiple', { of }).failure),
  ),
  minLength: constraint<number, string>(
    'a whole number from 0 up',
    (limit) => `at least ${limit} characters`,
    isLength,
    (limit) => (value) => {
      const length = measureLength(value)
      return length < limit ? failure('too-short', { limit, length }).failure : null
    },
  ),
  maxLength: constraint<number, string>(
    'a whole number from 0 up',
    (limit) => `at most ${limit} characters`,
    isLength,
    (limit) => (value) => {
      const length = measureLength(value)
      return length > limit ? failure('too-long', { limit, length }).failure : null
    },
  ),
  pattern: constraint<string | RegExp, string>(
    'a regular expression',
    (pattern) => `matches ${toExpression(pattern)}`,
    isPattern,
    (pattern, { maxLength }) => {
      const expression = toExpression(pattern)
      // Time can grow with a power of the length, and an expression that runs can't be stopped.
      const most = (maxLength as number | undefined) ?? MAX_PATTERN_LENGTH
      return (value) => {
        if (measureLength(value) > most)
          // With a limit of its own, that has been told already.
          return maxLength === undefined
            ? failure('pattern-not-tried', { most, length: measureLength(value) }).failure
            : null
        return expression.test(value) ? null : failure('pattern-differs', { pattern: String(expression) }).failure
      }
    },
  ),
  minItems: constraint<number, readonly unknown[]>(
    'a whole number from 0 up',
    (limit) => `at least ${limit} items`,
    isLength,
    (limit) => (value) =>
      value.length < limit ? failure('too-few-items', { limit, length: value.length }).failure : null,
  ),
  maxItems: constraint<number, readonly unknown[]>(
    'a whole number from 0 up',
    (limit) => `at most ${limit} items`,
    isLength,
    (limit) => (value) =>
      value.length > limit ? failure('too-many-items', { limit, length: value.length }).failure : null,
  ),
  uniqueItems: constraint<boolean, readonly unknown[]>(
    'true or false',
    (wanted) => (wanted ? 'no item twice' : 'items may come twice'),
    (argument) => typeof argument === 'boolean',
    (wanted) => (value) => {
      if (!wanted) return null
      const seen = new Map<string, number>()
      for (const [index, item] of value.entries()) {
        const meaning = toMeaning(item)
        const first = seen.get(meaning)
        if (first !== undefined) return failure('item-twice', { first: first + 1, second: index + 1 }).failure
        seen.set(meaning, index)
      }
      return null
    },
  ),
} satisfies Record<string, Constraint>

/** The name of a constraint. */
export type ConstraintName = keyof typeof constraints

/** Constraints of numbers; of kinds with units, each may be a text such as `15m`. */
export interface LimitsIn<Limit> {
  /**
   * The smallest value allowed.
   * @default none
   */
  readonly minimum?: Limit
  /**
   * The largest value allowed.
   * @default none
   */
  readonly maximum?: Limit
  /**
   * A limit above which values must be.
   * @default none
   */
  readonly exclusiveMinimum?: Limit
  /**
   * A limit below which values must be.
   * @default none
   */
  readonly exclusiveMaximum?: Limit
  /**
   * A number of which values must be a multiple.
   * @default none
   */
  readonly multipleOf?: Limit
}

/** Constraints of numbers. */
export type NumberConstraints = LimitsIn<number>

/** A pattern for the whole numbers that limits leave of a range, without anchors. */
export function writeWholePattern(options: Readonly<Record<string, unknown>>, least: number, most: number): string {
  const { minimum, exclusiveMinimum, maximum, exclusiveMaximum } = options as NumberConstraints
  const from = Math.max(least, Math.ceil(minimum ?? least), Math.floor(exclusiveMinimum ?? least - 1) + 1)
  const to = Math.min(most, Math.floor(maximum ?? most), Math.ceil(exclusiveMaximum ?? most + 1) - 1)
  return from > to ? '(?!)' : integerPattern(from, to)
}

/** Constraints of texts. */
export interface TextConstraints {
  /**
   * The fewest characters (Unicode code points) allowed.
   * @default none
   */
  readonly minLength?: number
  /**
   * The most characters (Unicode code points) allowed.
   * @default none
   */
  readonly maxLength?: number
  /**
   * A regular expression that must match somewhere in the value; use `^` and `$` for the whole.
   * @default none
   */
  readonly pattern?: RegExp | string
}

/** The names of the constraints of numbers. */
export const NUMBER_CONSTRAINTS: readonly ConstraintName[] = [
  'minimum',
  'exclusiveMinimum',
  'maximum',
  'exclusiveMaximum',
  'multipleOf',
]

/** The names of the constraints of texts. */
export const TEXT_CONSTRAINTS: readonly ConstraintName[] = ['minLength', 'maxLength', 'pattern']

/** Constraints of lists. */
export interface ListConstraints {
  /**
   * The fewest items allowed.
   * @default none
   */
  readonly minItems?: number
  /**
   * The most items allowed.
   * @default none
   */
  readonly maxItems?: number
  /**
   * True if no item may come twice.
   * @default false
   */
  readonly uniqueItems?: boolean
}
