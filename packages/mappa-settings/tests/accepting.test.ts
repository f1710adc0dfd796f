import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { inspect } from 'node:util'
import fc from 'fast-check'
import {
  type AnySetting,
  defineSettings,
  definitionFromJson,
  environmentLayer,
  resolveSettings,
  SettingsError,
  setting,
} from 'mappa-settings'
import { settingsFor } from 'mappa-settings/testing'

const about = 'What it is for'
type Options = Record<string, unknown>
const makers = setting as unknown as Readonly<Record<string, (about: string, options?: unknown) => AnySetting>>

/** A value, or the codes of what is wrong; anything else that is thrown fails the test. */
function attempt(make: () => unknown): { readonly value: unknown } | { readonly codes: readonly string[] } {
  try {
    return { value: make() }
  } catch (error) {
    assert.ok(error instanceof SettingsError, inspect(error))
    return { codes: error.problems.map(({ code }) => code) }
  }
}

const define = (kind: string, options: Options) => defineSettings({ dome: { thing: makers[kind]!(about, options) } })
const read = (kind: string, options: Options, text: string) => {
  const { values, problems } = resolveSettings(define(kind, { ...options, allowEmpty: true }), {
    layers: [environmentLayer({ DOME_THING: text })],
  })
  if (values === null) throw new SettingsError({ stage: null, problems })
  return values.dome.thing
}
const give = (kind: string, options: Options, value: unknown) =>
  settingsFor(define(kind, options), { 'dome.thing': value } as never).dome.thing
const fallBack = (kind: string, options: Options, value: unknown) =>
  settingsFor(define(kind, { ...options, default: value })).dome.thing
const fallBackInStage = (kind: string, options: Options, value: unknown) =>
  settingsFor(define(kind, { ...options, stages: { staging: { default: value } } }), {}, { stage: 'staging' }).dome
    .thing
const beItem = (kind: string, options: Options, value: unknown) =>
  (
    settingsFor(
      defineSettings({
        dome: { thing: makers.list!(about, { items: makers[kind]!(about, options), separator: '|' }) },
      }),
      { 'dome.thing': [value] } as never,
    ).dome.thing as unknown as readonly unknown[]
  )[0]

/** Kinds with rules and typed values, some of which break them, and the text of each value. */
const SCALARS: Readonly<Record<string, fc.Arbitrary<{ options: Options; value: unknown; text: string }>>> = {
  string: fc.record({ n: fc.nat(6), max: fc.option(fc.integer({ min: 1, max: 6 })) }).map(({ n, max }) => ({
    options: { ...(max === null ? {} : { maxLength: max }), pattern: '^[a-d]+$' },
    value: 'abcdef'.slice(0, n + 1),
    text: 'abcdef'.slice(0, n + 1),
  })),
  integer: fc.record({ value: fc.integer({ min: -9, max: 9 }), of: fc.integer({ min: 1, max: 4 }) }).map((each) => ({
    options: { minimum: -3, multipleOf: each.of },
    value: each.value,
    text: String(each.value),
  })),
  number: fc.integer({ min: -40, max: 40 }).map((value) => ({
    options: { exclusiveMinimum: -5, maximum: 5.5 },
    value: value / 4,
    text: String(value / 4),
  })),
  boolean: fc.boolean().map((value) => ({ options: {}, value, text: String(value) })),
  port: fc
    .integer({ min: 1, max: 70_000 })
    .map((value) => ({ options: { minimum: 1024 }, value, text: String(value) })),
  choice: fc.constantFrom('east', 'west', 'north').map((value) => ({
    options: { enum: ['east', 'west'] },
    value,
    text: value,
  })),
  duration: fc.nat(90).map((value) => ({
    options: { minimum: '10s', maximum: '1m' },
    value: value * 1000,
    text: `${value}s`,
  })),
  size: fc.nat(90).map((value) => ({ options: { maximum: '64kB' }, value: value * 1000, text: `${value}kB` })),
  dateTime: fc.nat(27).map((day) => {
    const text = `2026-11-${String(day + 1).padStart(2, '0')}T18:30:00Z`
    return { options: { check: (each: Date) => each.getUTCDate() > 9 || 'too early' }, value: new Date(text), text }
  }),
  base64: fc.uint8Array({ minLength: 1, maxLength: 5 }).map((value) => ({
    options: { bytes: 3 },
    value,
    text: Buffer.from(value).toString('base64'),
  })),
  json: fc
    .jsonValue({ maxDepth: 2 })
    .filter((value) => JSON.stringify(value) !== '{}' && typeof value !== 'string')
    .map((value) => ({
      options: { check: (each: unknown) => each !== null || 'nothing' },
      value,
      text: JSON.stringify(value),
    })),
}
const ANY = fc.oneof(
  ...Object.entries(SCALARS).map(([kind, cases]) => cases.map((each) => ({ kind, ...each }))),
  ...Object.entries(SCALARS)
    .filter(([kind]) => kind !== 'json')
    .map(([kind, cases]) =>
      fc.array(cases, { minLength: 1, maxLength: 3 }).map((all) => ({
        kind: 'list',
        options: { items: makers[kind]!(about, all[0]!.options), maxItems: 2 } as Options,
        value: all.map(({ value }) => value) as unknown,
        text: all.map(({ text }) => text).join(','),
      })),
    ),
)

function isFrozenWhole(value: unknown): boolean {
  if (typeof value !== 'object' || value === null || value instanceof Date || value instanceof Uint8Array) return true
  return Object.isFrozen(value) && Object.values(value).every(isFrozenWhole)
}

describe('a value, whichever way it comes', () => {
  it('is accepted or refused by the same rules, and is the same', () => {
    fc.assert(
      fc.property(ANY, ({ kind, options, value, text }) => {
        const expected = attempt(() => read(kind, options, text))
        const ways: Readonly<Record<string, () => unknown>> = {
          given: () => give(kind, options, value),
          'by default': () => fallBack(kind, options, value),
          'by the default of a stage': () => fallBackInStage(kind, options, value),
          ...(kind === 'list' || kind === 'json' ? {} : { 'as an item': () => beItem(kind, options, value) }),
        }
        for (const [way, take] of Object.entries(ways)) {
          const found = attempt(take)
          const isRefused = 'codes' in expected && 'codes' in found && way !== 'given'
          if (!isRefused) assert.deepEqual(found, expected, `${way}: ${kind} ${inspect(options)} ${text}`)
        }
      }),
      { numRuns: 1500, seed: 36 },
    )
  })

  it('is frozen whole and shared with nobody', () => {
    fc.assert(
      fc.property(ANY, ({ kind, options, value }) => {
        const definition = attempt(() => define(kind, { ...options, default: value }))
        if ('codes' in definition) return
        const load = () => settingsFor(definition.value as ReturnType<typeof define>).dome.thing as unknown
        const [one, other] = [load(), load()]
        assert.deepEqual(one, other)
        assert.ok(isFrozenWhole(one), inspect(one))
        if (typeof one === 'object' && one !== null) assert.ok(one !== other && one !== value, inspect(one))
      }),
      { numRuns: 500, seed: 36 },
    )
  })

  const cases: readonly (readonly [what: string, make: () => unknown, expected: unknown])[] = [
    ['an empty default keeps the rules', () => fallBack('string', { minLength: 5 }, ''), ['setting-default-wrong']],
    ['an empty list does', () => fallBack('list', { minItems: 2 }, []), ['setting-default-wrong']],
    ['no bytes do', () => fallBack('base64', { bytes: 32 }, new Uint8Array(0)), ['setting-default-wrong']],
    ['an empty text that no rule forbids', () => fallBack('string', {}, ''), ''],
    ['items of another kind', () => fallBack('list', {}, [null]), ['setting-default-wrong']],
    ['an item that is a symbol', () => fallBack('list', {}, [Symbol('x')]), ['setting-default-wrong']],
    ['an empty item', () => fallBack('list', {}, ['']), ['setting-default-wrong']],
    // biome-ignore lint/suspicious/noSparseArray: what a slip of the comma makes
    ['a gap in a list', () => fallBack('list', {}, ['a', , 'b']), ['setting-default-wrong']],
    ['an item with the separator, given', () => give('list', {}, ['a,b', 'c']), ['a,b', 'c']],
    ['the same by default, which a file could not say', () => fallBack('list', {}, ['a,b']), ['setting-default-wrong']],
    [
      'items written as texts of their kind',
      () => fallBack('list', { items: setting.duration(about) }, ['15m', 500]),
      [900_000, 500],
    ],
    ['a list for a conversion of the project', () => give('custom', { convert: String }, [1, 2]), [1, 2]],
    [
      'an address for a conversion of the project',
      () => String(give('custom', { convert: (text: string) => new URL(text) }, new URL('https://a.example/'))),
      'https://a.example/',
    ],
    [
      'the check of a conversion holds for its default',
      () => fallBack('custom', { convert: Number, check: (each: number) => each > 0 || 'no' }, -5),
      ['setting-default-wrong'],
    ],
    [
      'what a conversion looks up in a table is copied',
      () => {
        const table = { a: { star: ['Vega'] } }
        const found = give('custom', { convert: () => table.a }, 'a')
        return [Object.isFrozen(table.a), Object.isFrozen((found as unknown as typeof table.a).star)]
      },
      [false, true],
    ],
    ['JSON with digits that a number lacks', () => give('json', {}, '[1234567890123456789]'), ['json-number-inexact']],
    ['a number between two as close', () => give('json', {}, '[-3669424806904.6562]'), [-3669424806904.6562]],
    ['a whole number one digit too long', () => give('json', {}, '12345678901234567'), ['json-number-inexact']],
    ['a fraction below all', () => give('json', {}, '1e-999'), ['json-number-inexact']],

    [
      'JSON with digits that it has',
      () => give('json', {}, '[0.10, 1e3, 1200.0e-2, -0, 0.30000000000000004]'),
      [0.1, 1000, 12, -0, 0.30000000000000004],
    ],
    ['JSON with a number without end', () => give('json', {}, '1e999'), ['number-too-large']],
    ['JSON with a member twice', () => give('json', {}, '{"a":1,"\\u0061":2}'), ['json-member-twice']],
    ['JSON with the same member in two objects', () => give('json', {}, '[{"a":1},{"a":2}]'), [{ a: 1 }, { a: 2 }]],
    ['a multiple of nothing', () => give('duration', { multipleOf: '0s' }, '5s'), ['setting-option-wrong']],
    [
      'a stage with another word',
      () => define('choice', { enum: ['a'], stages: { staging: { enum: ['b'] } } }),
      ['stage-changes-type'],
    ],
    [
      'a stage with fewer words',
      () =>
        settingsFor(
          define('choice', { enum: ['a', 'b'], stages: { staging: { enum: ['a'] } } }),
          { 'dome.thing': 'b' } as never,
          { stage: 'staging' },
        ),
      ['not-in-enum'],
    ],
    [
      'a default in a stage of what can be forbidden',
      () =>
        defineSettings({
          motors: setting.boolean(about),
          thing: setting.string(about, {
            optional: true,
            forbiddenIf: { motors: true },
            stages: { staging: { default: 'x' } },
          }),
        }),
      ['rule-needs-optional'],
    ],
    [
      'a stage with other items',
      () => define('list', { stages: { staging: { items: setting.port(about) } } }),
      ['stage-changes-type'],
    ],
  ]
  for (const [what, make, expected] of cases)
    it(`is right: ${what}`, () => {
      const found = attempt(make)
      assert.deepEqual('codes' in found ? found.codes : found.value, expected)
    })

  it('has to exist item by item, where the items are paths', () => {
    const definition = defineSettings({
      maps: setting.list(about, { items: setting.path(about, { mustExist: true }) }),
    })
    const { problems } = resolveSettings(definition, {
      layers: [environmentLayer({ MAPS: 'here,there' })],
      exists: (file) => file === 'here',
    })
    assert.deepEqual(
      problems.map(({ code, message }) => [code, /Item \d/.exec(message)?.[0]]),
      [['path-not-there', 'Item 2']],
    )
  })

  const broken = [
    '',
    '{',
    '[1,]',
    '{"a":1,}',
    '{a:1}',
    "{'a':1}",
    '"\n"',
    '"\\x"',
    '01',
    '1.',
    '.5',
    '+1',
    'tru',
    'NaN',
    '[1 2]',
    '{"a" 1}',
    '1 1',
    '\u00a01',
    '"\ud800',
  ]
  it('is JSON where JSON.parse says so, and else the place is that of the first wrong character', () => {
    const json = (text: string) => attempt(() => read('json', {}, text))
    for (const text of broken.filter((each) => each !== ''))
      assert.deepEqual(json(text), { codes: ['not-json'] }, JSON.stringify(text))
    fc.assert(
      fc.property(fc.json(), fc.nat(), fc.constantFrom('', ',', '}', '"', '0', '\\', ' '), (text, at, put) => {
        const changed = text.slice(0, at % (text.length + 1)) + put + text.slice(at % (text.length + 1))
        const found = json(changed)
        let parsed: unknown
        try {
          parsed = JSON.parse(changed)
        } catch {
          const codes = 'codes' in found ? found.codes : []
          // A number in front of the place may be one that is refused itself.
          assert.match(String(codes), /^(?:not-json|empty|json-|number-)/, changed)
          return
        }
        if ('value' in found) assert.deepEqual(found.value, parsed)
        else
          assert.ok(['json-number-inexact', 'json-member-twice', 'number-too-large'].includes(found.codes[0]!), changed)
      }),
      { numRuns: 1000, seed: 36 },
    )
    const { problems } = resolveSettings(defineSettings({ a: setting.json(about) }), {
      layers: [environmentLayer({ A: '{"a":\n  tru}' })],
    })
    assert.match(problems[0]!.message, /from line 2, character 3 on/)
  })
})

describe('a wrong definition', () => {
  const WRONG: readonly unknown[] = [null, 'x', -1, {}, [], [null], () => true, Symbol('x'), Number.NaN]
  const OPTIONS: Readonly<Record<string, readonly string[]>> = {
    string: ['minLength', 'maxLength', 'pattern', 'secret', 'optional', 'public', 'name', 'formerly', 'deprecated'],
    integer: ['minimum', 'maximum', 'multipleOf', 'exclusiveMinimum', 'requiredIn', 'allowEmpty'],
    duration: ['minimum', 'multipleOf', 'default', 'rotateEvery'],
    choice: ['enum', 'stages', 'requiredIf', 'readAt'],
    list: ['items', 'separator', 'minItems', 'uniqueItems', 'default', 'check'],
    base64: ['bytes', 'default', 'distinctAcrossStages'],
    custom: ['convert', 'schema', 'forbiddenIf'],
    json: ['schema', 'default'],
    dateTime: ['default'],
    path: ['mustExist'],
    no_such_option: [],
  }

  const wrong = Object.entries(OPTIONS).flatMap(([kind, options]) =>
    options.flatMap((option) => WRONG.map((argument) => ({ kind, option, argument }))),
  )
  const whatIsWrong = ({ kind, option, argument }: (typeof wrong)[number]) => {
    try {
      define(kind, { ...(kind === 'choice' ? { enum: ['a'] } : {}), [option]: argument })
      return []
    } catch (error) {
      assert.ok(error instanceof SettingsError, inspect(error))
      return error.problems
    }
  }
  it('names the setting and the option, whatever is wrong', () => {
    const told = wrong.map((each) => [each.option, whatIsWrong(each)] as const).filter(([, { length }]) => length > 0)
    assert.ok(told.length >= 250, `only ${told.length} definitions were wrong`)
    for (const [option, problems] of told) {
      const text = problems.map(({ message, hint }) => `${message} ${hint}`).join(' ')
      assert.ok(text.includes(option), `${option}: ${text}`)
      assert.ok(!/\[object|NaNB|TypeError/.test(text), text)
      for (const { setting: path, message } of problems) {
        assert.equal(path, 'dome.thing', message)
        assert.match(message, /dome\.thing|DOME_THING/)
      }
    }
  })

  const broken: readonly (readonly [what: string, make: () => unknown, codes: readonly string[]])[] = [
    ['options that inherit', () => define('string', Object.create({ secret: true })), ['options-not-object']],
    [
      'options of a class',
      () =>
        define(
          'string',
          new (class {
            readonly secret = true
          })() as never,
        ),
      ['options-not-object'],
    ],
    ['options in a map', () => define('string', new Map([['secret', true]]) as never), ['options-not-object']],
    [
      'a hidden option',
      () => define('string', Object.defineProperty({}, 'secert', { value: true, enumerable: false })),
      ['setting-option-unknown'],
    ],
    [
      'an accessor that throws',
      () =>
        define('string', {
          get default() {
            throw new Error('no')
          },
        }),
      ['setting-option-unreadable'],
    ],
    [
      'a proxy that throws',
      () =>
        define(
          'string',
          new Proxy(
            {},
            {
              ownKeys() {
                throw new Error('no')
              },
            },
          ),
        ),
      ['setting-option-unreadable'],
    ],
    [
      'a group that throws',
      () =>
        defineSettings({
          dome: {
            get key(): never {
              throw new Error('no')
            },
          },
        }),
      ['definition-unreadable'],
    ],
    [
      'groups without end',
      () => defineSettings(Array.from({ length: 5000 }).reduce((inner: object) => ({ group: inner }), {}) as never),
      ['definition-too-deep'],
    ],
    [
      'the same in JSON',
      () => definitionFromJson({ settings: Array.from({ length: 5000 }).reduce((inner) => ({ group: inner }), {}) }),
      ['definition-too-deep'],
    ],
    [
      'an item of a choice without words, with a default',
      () =>
        define('list', { items: (setting.choice as never as (about: string) => AnySetting)(about), default: ['a'] }),
      ['setting-option-missing'],
    ],
  ]
  for (const [what, make, codes] of broken)
    it(`is told, not thrown: ${what}`, () => {
      assert.deepEqual(attempt(make), { codes })
    })
})
