import { makeClosestMatch } from '../../text/closest-match.ts'
import type { CommonOptions, ReadAt, Setting } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'

/** Makes a setting whose type is the union of its choices. */
export type ChoiceMaker = <
  const Choice extends string,
  const IsSecret extends boolean = false,
  const IsOptional extends boolean = false,
  const IsPublic extends boolean = false,
  const At extends ReadAt = 'build',
  const For extends string = string,
>(
  description: string,
  options: Omit<
    CommonOptions<NoInfer<Choice>, IsSecret, IsOptional, IsPublic, At, NoInfer<Choice>, For>,
    'allowEmpty'
  > & {
    /** The words to choose from. */
    readonly enum: readonly Choice[]
  },
) => Setting<Choice, IsSecret, IsOptional, IsPublic, At, For>

/** One of several words, in just the case in which the definition writes them. */
export const choiceKind = /* @__PURE__ */ kind<string, ChoiceMaker>({
  name: 'choice',
  describe: (options) => `one of ${(options.enum as readonly string[]).join(', ')}`,
  constraints: [],
  options: {
    enum: {
      expected: "a list of different words, such as ['drill', 'open']",
      required: true,
      keepsType: {
        expected: 'a part of the words for all stages',
        isKept: (inStage, inAllStages) =>
          (inStage as readonly string[]).every((each) => (inAllStages as readonly string[]).includes(each)),
      },
      isValid: (value) =>
        Array.isArray(value) &&
        value.length > 0 &&
        value.every((each) => typeof each === 'string' && each !== '') &&
        new Set(value).size === value.length,
    },
  },
  isValid: (value) => typeof value === 'string',
  convert(text, options) {
    const choices = options.enum as readonly string[]
    if (choices.includes(text)) return { value: text }
    return failure('not-in-enum', { choices, near: makeClosestMatch(choices)(text) })
  },
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  values: (options) => options.enum as readonly string[],
  type: {
    typescript: (options) => (options.enum as readonly string[]).map((each) => JSON.stringify(each)).join(' | '),
    payload: () => 's',
    isText: true,
    isCommon: true,
  },
  schema: { type: 'string' },
})

/**
 * Declares a setting that is one of several words. Accepts one of the texts in `enum`; upper and lower case matter.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `enum`: the texts there are; required
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.choice('Which mirror is in use', { enum: ['east', 'west'], default: 'east' })
 * // DOME_MIRROR=west -> 'west'
 * ```
 */
export const choice = /* @__PURE__ */ maker(choiceKind)
