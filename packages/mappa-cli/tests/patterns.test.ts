import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { makeProject } from '@mappa/tests/support/project'

/** Patterns that run for seconds on a text of 60 to 100 characters. */
const EXPLOSIVE: readonly RegExp[] = [
  /(a+)+$/,
  /^(a|a)*$/,
  /(a|aa)+$/,
  /^(a*)*$/,
  /^(\w+\s?)*$/,
  /([a-z]+)*\d/,
  /(x+x+)+y/,
  /^([^,]+,?)*$/,
  /^(.*a){20}$/,
  /^(.*,){11}P/,
  /^(?:a?){40}a{40}$/,
  /^(a+){10}$/,
  /^(?:a*){25}$/,
  /^(?:a+){25}$/,
  /^(a|A)+$/i,
  /^(?:k|K)+$/i,
  new RegExp(`^(a+)+(?:|${'b'.repeat(130)})$`),
  /^(abc|a|bc)+$/,
  /^(?=(a+)+b)/,
  /(?:\w{2,})*$/,
  /^(?!.*--)(?:[a-z]+)*\d$/,
  /(?:(?!x)[a-z]+)+\b!/,
]

/** Patterns that take long on long texts alone, and a length that they can be tried on. */
const SLOW: readonly (readonly [RegExp, number])[] = [
  [/^(.*)=(.*)=(.*)=$/, 300],
  [/(.*);(.*);(.*)!/, 150],
  [/(a*)(a*)$/, 300],
]

/** Patterns that refer to a group in such a way that nobody can say how long they take. */
const UNPROVED: readonly RegExp[] = [/^(a+)+\1$/, /^(?<n>a+)+\k<n>$/, /^((a+)+)\2!$/, /^(?:(.*)\1)+;$/, /^(a*)*\1b$/]

const HARMLESS: readonly RegExp[] = [
  /^(["']).*\1$/,
  /^(?<quote>["'`])[^"'`]*\k<quote>$/,
  /^(\w)\1{3}-(\d)\2$/,
  /^(?:(a)|b)\1c$/,
  /^\d{1,3}(?:\.\d{1,3})*$/,
  /^[A-Z]{2}(?:-[A-Z0-9]{1,3})*$/,
  /^[a-z]{2}(?:-[a-z]{2,4})*$/,
  /^(?:.|\n)*$/,
  /^(.*\n)*$/,
  /^(?:\s*#.*\n)*$/,
  /^\p{L}+(?:-\p{L}+)*$/u,
  /^([a-z]+-)*[a-z]+$/,
  /^(\d{1,3}\.){3}\d{1,3}$/,
  /^(?:[\w-]+\.)+[a-z]{2,}$/,
  /^(a|b)*$/,
  /^(?=.*\d)(?=.*[a-z]).{8,}$/,
  /^https?:\/\/[^/]+(\/[^/?#]+)*$/,
  /(\p{L}\d)+/u,
  /\s+$/,
  /^open-/,
  /^(?:a+)+/,
  /^.{0,1000}$/,
  /^[0-9a-f]{64}$/i,
  /^(?:\w+\b ?)*$/,
  /^(?:\b\w+|\W)*$/,
  /(?:\d[a-z]?|(?=a)\b-{0,20})+$/,
  /^(a+)\1$/,
]

const name = (pattern: RegExp) => `${String(pattern).slice(0, 50)}`

describe('a pattern, when its definition is checked', () => {
  /** What `mappa check` says of patterns. */
  const check = (context: Parameters<typeof makeProject>[0], patterns: readonly (readonly [RegExp, number?])[]) => {
    const settings = patterns.map(([pattern, maxLength], index) => {
      const limit = maxLength === undefined ? '' : `, maxLength: ${maxLength}`
      return `s${index}: setting.string('x', { optional: true, pattern: ${pattern}${limit} })`
    })
    const { mappa } = makeProject(context, {
      'settings.definition.mjs': `import { defineSettings, setting } from 'mappa-settings'\nexport default defineSettings({ ${settings.join(',\n')} })`,
    })
    return JSON.parse(mappa(['check', '--json']).stdout).problems as {
      code: string
      setting: string
      message: string
    }[]
  }
  const codes = (found: readonly { code: string; setting: string }[], count: number) =>
    Array.from({ length: count }, (_, index) => found.find(({ setting }) => setting === `s${index}`)?.code ?? null)

  it('is refused where it explodes', async (context) => {
    const found = codes(
      check(
        context,
        EXPLOSIVE.map((each) => [each]),
      ),
      EXPLOSIVE.length,
    )
    for (const [index, pattern] of EXPLOSIVE.entries())
      await context.test(name(pattern), () => assert.equal(found[index], 'pattern-explosive'))
  })
  it('is refused where it is slow on long texts, unless those are not allowed', async (context) => {
    const found = codes(
      check(
        context,
        SLOW.map(([each]) => [each]),
      ),
      SLOW.length,
    )
    const limited = codes(check(context, SLOW), SLOW.length)
    for (const [index, [pattern]] of SLOW.entries())
      await context.test(name(pattern), () => assert.deepEqual([found[index], limited[index]], ['pattern-slow', null]))
  })
  it('is refused where it refers to a group, and nobody can say how long it takes', async (context) => {
    const all = UNPROVED.map((each): readonly [RegExp] => [each])
    const found = codes(check(context, all), UNPROVED.length)
    for (const [index, pattern] of UNPROVED.entries())
      await context.test(name(pattern), () => assert.equal(found[index], 'pattern-unproved'))
  })
  it('is left alone where it is harmless', async (context) => {
    const found = codes(
      check(
        context,
        HARMLESS.map((each) => [each]),
      ),
      HARMLESS.length,
    )
    for (const [index, pattern] of HARMLESS.entries())
      await context.test(name(pattern), () => assert.equal(found[index], null))
  })
})
