import { closestMatch } from '../../text/closest-match.ts'
import type { CommonOptions, ReadAt, Setting } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** Makes a setting whose type is the union of its choices. */
type ChoiceMaker = <
  const Choice extends string,
  const IsSecret extends boolean = false,
  const IsOptional extends boolean = false,
  const IsPublic extends boolean = false,
  const At extends ReadAt = 'build',
>(
  description: string,
  options: Omit<CommonOptions<NoInfer<Choice>, IsSecret, IsOptional, IsPublic, At>, 'allowEmpty'> & {
    /** The words to choose from. */
    readonly enum: readonly Choice[]
  },
) => Setting<Choice, IsSecret, IsOptional, IsPublic, At>

/** One of several words, in just the case in which the definition writes them. */
export const choice = /* @__PURE__ */ kind<string, ChoiceMaker>({
  name: 'choice',
  says: (options) => `one of ${(options.enum as readonly string[]).join(', ')}`,
  constraints: [],
  options: {
    enum: {
      needed: "a list of different words, such as ['drill', 'open']",
      required: true,
      accepts: (value) =>
        Array.isArray(value) &&
        value.length > 0 &&
        value.every((each) => typeof each === 'string' && each !== '') &&
        new Set(value).size === value.length,
    },
  },
  accepts: (value) => typeof value === 'string',
  convert(text, options) {
    const choices = options.enum as readonly string[]
    if (choices.includes(text)) return { value: text }
    return failure('not-in-enum', { choices, near: closestMatch(choices)(text) })
  },
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  schema: { type: 'string' },
})
