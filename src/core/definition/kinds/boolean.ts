import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

const MEANINGS = new Map([
  ['true', true],
  ['yes', true],
  ['on', true],
  ['1', true],
  ['false', false],
  ['no', false],
  ['off', false],
  ['0', false],
])

/** True or false, in any of four words each and any case. Nothing else: `"0 "` and `"enabled"` are refused. */
export const boolean = /* @__PURE__ */ kind<boolean, Maker<boolean>>({
  name: 'boolean',
  says: () => 'true or false',
  constraints: [],
  accepts: (value) => typeof value === 'boolean',
  convert(text) {
    const value = text.length <= 5 ? MEANINGS.get(text.toLowerCase()) : undefined
    return value === undefined ? failure('not-boolean', {}) : { value }
  },
  text: () => ({ pattern: `^(?:${words(true)}|${words(false)})$` }),
  textOfValues: (values) => ({ pattern: `^(?:${values.map((each) => words(each === true)).join('|')})$` }),
  toText: String,
  schema: { type: 'boolean' },
})

/** A pattern for the words of one meaning, in any case. */
function words(meaning: boolean): string {
  const anyCase = (letter: string) => (/[a-z]/.test(letter) ? `[${letter.toUpperCase()}${letter}]` : letter)
  return [...MEANINGS].flatMap(([word, each]) => (each === meaning ? [[...word].map(anyCase).join('')] : [])).join('|')
}
