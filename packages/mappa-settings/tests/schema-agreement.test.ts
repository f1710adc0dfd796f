import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { inspect } from 'node:util'
import { Ajv2020 } from 'ajv/dist/2020.js'
import fc from 'fast-check'
import {
  type AnySetting,
  defineSettings,
  environmentLayer,
  resolveSettings,
  SettingsError,
  setting,
} from 'mappa-settings'
import { environmentSchema, valuesSchema } from 'mappa-settings/derive'
import { settingsFor } from 'mappa-settings/testing'

const about = 'What it is for'
type Environment = Record<string, string>

/** One for all: making it takes ten times as long as compiling a schema. */
const ajv = new Ajv2020({ strict: false })

type AnyDefinition = ReturnType<typeof defineSettings>

function fits(schema: object, data: unknown) {
  const validate = ajv.compile(schema)
  ajv.removeSchema(schema)
  return { fits: validate(data), errors: validate.errors, isWhole: !JSON.stringify(schema).includes('Not expressed') }
}

/** What loading and the schema say of an environment in a stage, and whether the schema leaves a rule out. */
function verdicts(definition: AnyDefinition, environment: Environment, stage = definition.stages[0]!) {
  const found = fits(environmentSchema(definition, { stage }), environment)
  const { values, problems } = resolveSettings(definition, { stage, layers: [environmentLayer(environment)] })
  if (values !== null) {
    // Of bytes, JSON makes an object with numbers; a schema is about their text.
    const bytesAsText = (_key: string, each: unknown) =>
      each instanceof Uint8Array ? Buffer.from(each).toString('base64') : each
    const data: unknown = JSON.parse(JSON.stringify(values, bytesAsText))
    assert.deepEqual(fits(valuesSchema(definition, { stage }), data).errors, null, inspect([stage, data]))
    assert.deepEqual(fits(valuesSchema(definition), data).errors, null, inspect([stage, data]))
  }
  return { loads: values !== null, fits: found.fits, isWhole: found.isWhole, why: [problems, found.errors] }
}

const any = setting as unknown as Record<string, (about: string, options?: object) => AnySetting>

/** Settings and environments on which the two once disagreed: the environment, and what both say. */
const CASES: readonly (readonly [string, Record<string, AnySetting>, Environment, boolean])[] = [
  [
    'an empty text for what is optional',
    { x: setting.string(about, { optional: true, minLength: 3 }) },
    { X: '' },
    true,
  ],
  ['an empty text for what has a default', { x: setting.port(about, { default: 80 }) }, { X: '' }, true],
  ['an empty text for what is required', { x: setting.string(about, { minLength: 0 }) }, { X: '' }, false],
  ['a former name alone', { x: setting.string(about, { formerly: ['OLD', 'OLDER'] }) }, { OLDER: 'a' }, true],
  ['a former name that breaks a rule', { x: setting.integer(about, { formerly: ['OLD'] }) }, { OLD: 'a' }, false],
  [
    'a former name beside the own one',
    { x: setting.integer(about, { formerly: ['OLD'] }) },
    { OLD: 'a', X: '1' },
    true,
  ],
  ['none of the names', { x: setting.string(about, { formerly: ['OLD'] }) }, {}, false],
  ['an address of another script', { x: setting.url(about) }, { X: 'https://münchen.example/' }, true],
  ['an address with a bar', { x: setting.url(about) }, { X: 'https://a.example/a|b' }, true],
  ['an email address with two dots', { x: setting.email(about) }, { X: 'a..b@c.example' }, true],
  ['a pattern in any case', { x: setting.string(about, { pattern: /^dome-/i }) }, { X: 'DOME-1' }, true],
  [
    'another word for true',
    { m: setting.boolean(about), x: setting.string(about, { optional: true, requiredIf: { m: true } }) },
    { M: 'Yes' },
    false,
  ],
  [
    'a default of true',
    {
      m: setting.boolean(about, { default: true }),
      x: setting.string(about, { optional: true, requiredIf: { m: true } }),
    },
    {},
    false,
  ],
  [
    'an empty text that means the default',
    {
      m: setting.boolean(about, { default: true }),
      x: setting.string(about, { optional: true, requiredIf: { m: true } }),
    },
    { M: '' },
    false,
  ],
  [
    'an empty text where none is allowed',
    { m: setting.boolean(about), x: setting.string(about, { optional: true, forbiddenIf: { m: true } }) },
    { M: '1', X: '' },
    true,
  ],
  [
    'a value where none is allowed',
    { m: setting.boolean(about), x: setting.string(about, { optional: true, forbiddenIf: { m: true } }) },
    { M: '1', X: 'a' },
    false,
  ],
  ['a placeholder', { x: setting.string(about) }, { X: '<X>' }, false],
  ['a port beyond the last', { x: setting.port(about) }, { X: '65536' }, false],
  ['a port below the first', { x: setting.port(about, { minimum: 1024 }) }, { X: '1023' }, false],
  ['a number that is too large', { x: setting.integer(about) }, { X: '9007199254740992' }, false],
  ['the largest number', { x: setting.integer(about) }, { X: '-9007199254740991' }, true],
]

describe('loading and the schema of the environment', () => {
  for (const [what, tree, environment, expected] of CASES) {
    it(`agree on ${what}`, () => {
      const { loads, fits, isWhole, why } = verdicts(defineSettings(tree), environment)
      assert.equal(loads, expected, inspect(why, { depth: 4 }))
      if (isWhole || loads) assert.equal(fits, expected, inspect(why, { depth: 4 }))
    })
  }

  const kinds: readonly (readonly [string, fc.Arbitrary<object>])[] = [
    [
      'string',
      fc.record(
        {
          minLength: fc.nat(3),
          maxLength: fc.integer({ min: 3, max: 6 }),
          pattern: fc.constantFrom('^a', /b/, /^[a-z0-9]*$/u, /A/i, /^.$/),
        },
        { requiredKeys: [] },
      ),
    ],
    [
      'integer',
      fc.record(
        {
          minimum: fc.integer({ min: -300, max: 40 }),
          maximum: fc.integer({ min: 40, max: 4000 }),
          exclusiveMinimum: fc.constantFrom(-7, 3.5),
          multipleOf: fc.constantFrom(2),
        },
        { requiredKeys: [] },
      ),
    ],
    [
      'port',
      fc.record({ minimum: fc.constantFrom(0, 1, 80), maximum: fc.constantFrom(443, 65535) }, { requiredKeys: [] }),
    ],
    ['choice', fc.constant({ enum: ['drill', 'open', '1'] })],
    ['boolean', fc.constant({})],
    ['number', fc.record({ minimum: fc.constantFrom(-1, 0.5) }, { requiredKeys: [] })],
    ...[
      'url',
      'email',
      'hostname',
      'ip',
      'uuid',
      'duration',
      'size',
      'dateTime',
      'json',
      'pem',
      'base64',
      'path',
      'list',
    ].map((name): [string, fc.Arbitrary<object>] => [name, fc.constant({})]),
  ]
  const common = fc.record(
    {
      optional: fc.constant(true),
      allowEmpty: fc.constant(true),
      formerly: fc.constantFrom(['OLD'], ['OLD', 'OLDER']),
    },
    { requiredKeys: [] },
  )
  const subject = fc.oneof(...kinds.map(([kind, options]) => fc.tuple(fc.constant(kind), options, common)))
  const condition = fc.constantFrom(null, 'requiredIf', 'forbiddenIf')
  const texts = fc.oneof(
    {
      weight: 4,
      arbitrary: fc.constantFrom(
        '',
        'a',
        'abc',
        'ab1',
        'B',
        '0',
        '-0',
        '1',
        '01',
        '-7',
        '80',
        '443',
        '65536',
        '3999',
        '4.5',
        '1e3',
        '1.0',
        'true',
        'No',
        'ON',
        'drill',
        'open',
        '<S>',
        '😀',
        '15m',
        '1h30m',
        '10MB',
        '8.2MB',
        '2026-11-23T18:30:00Z',
        '{"a":1}',
        'Zm4=',
        'https://a.example/',
        'desk@fernhollow.example',
        '::1',
        '10.4.0.12',
        'a,b',
      ),
    },
    fc.string({ maxLength: 4 }),
    fc.integer().map(String),
  )
  const environments = fc.record({ S: texts, OLD: texts, OLDER: texts, M: texts }, { requiredKeys: [] })

  /** What loads always fits; what fits loads, unless the schema says that it leaves a rule out. True if it leaves none out. */
  const assertAgreement = (definition: AnyDefinition, environment: Environment) => {
    const all = definition.stages.map((stage) => verdicts(definition, environment, stage))
    for (const { loads, fits, isWhole, why } of all)
      if (loads || isWhole) assert.equal(fits, loads, inspect(why, { depth: 5 }))
    const { fits: fitsAny } = fits(environmentSchema(definition), environment)
    assert.equal(
      fitsAny,
      all.some((each) => each.fits),
    )
    return all.every(({ isWhole }) => isWhole)
  }

  /** What the setting is that rules wait for: the value they wait for, and its options. */
  const OTHERS = {
    boolean: { wanted: true, options: {} },
    integer: { wanted: 1, options: {} },
    choice: { wanted: 'open', options: { enum: ['drill', 'open'] } },
  } as const

  /** A definition; `null` for one that is refused, as some random ones are. */
  const defined = (tree: Parameters<typeof defineSettings>[0]) => {
    try {
      return defineSettings(tree)
    } catch (error) {
      assert.ok(error instanceof SettingsError)
      return null
    }
  }

  /** What a stage can have of its own, by kind. */
  const IN_STAGE: Readonly<Record<string, readonly object[]>> = {
    string: [{ default: 'abc' }, { minLength: 0 }, { pattern: '^a' }],
    integer: [{ default: 80 }, { maximum: 4000 }],
    port: [{ default: 443 }, { minimum: 443 }],
    choice: [{ default: 'open' }, { enum: ['drill'] }],
    boolean: [{ default: true }],
    url: [{ default: 'https://a.example/' }],
    duration: [{ default: '15m' }, { maximum: '1h' }],
    list: [{ default: ['a'] }, { maxItems: 1 }],
  }

  it('agree on random definitions and environments', () => {
    let whole = 0
    fc.assert(
      fc.property(
        subject,
        condition,
        fc.constantFrom('boolean', 'integer', 'choice'),
        environments,
        fc.nat(4),
        ([kind, own, shared], rule, other, environment, ownInStage) => {
          const { wanted, options } = OTHERS[other]
          const inStage = IN_STAGE[kind]?.[ownInStage]
          const rules = {
            ...(rule === null ? {} : { optional: true, [rule]: { m: wanted } }),
            ...(inStage === undefined ? {} : { stages: { staging: inStage } }),
          }
          const definition = defined({
            m: any[other]!(about, { ...options, default: wanted }),
            s: any[kind]!(about, { ...own, ...(kind === 'choice' ? {} : shared), ...rules }),
          })
          if (definition === null) return
          if (assertAgreement(definition, environment)) whole++
        },
      ),
      // The default of one stage for what is required there.
      { numRuns: 150, examples: [[['string', {}, {}], 'requiredIf', 'boolean', {}, 0]] },
    )
    assert.ok(whole > 20, `${whole}`)
  })

  it('agree on typed values too', () => {
    const given = fc.oneof(
      texts.filter((text) => text !== '<S>'),
      fc.integer({ min: -9, max: 5000 }),
      fc.constantFrom<unknown>(80.5, -1e300, true, null, [], ['a'], ['a', 'a'], [80, 1], { a: 1 }),
    )
    // Bytes and dates are something else in JSON than in a program; a text is read as one by a conversion and by JSON.
    const typed = subject.filter(([kind]) => !['dateTime', 'base64', 'json', 'duration', 'size'].includes(kind))
    let whole = 0
    const agrees = (definition: AnyDefinition, value: unknown) => {
      const schema = valuesSchema(definition)
      // A text is converted where it is given; in JSON it is one.
      if (typeof value === 'string' && (schema.properties as { s: { type?: string } }).s.type !== 'string') return
      const found = fits(schema, { s: value })
      const loads = loadsTyped(definition, value)
      if (loads || found.isWhole) assert.equal(found.fits, loads, inspect([schema, value, found.errors]))
      if (found.isWhole) whole++
    }
    fc.assert(
      fc.property(typed, given, ([kind, own], value) => {
        const list = { items: setting.port(about, { minimum: 80 }), uniqueItems: true }
        const definition = defined({ s: any[kind]!(about, kind === 'list' ? list : own) })
        if (definition !== null) agrees(definition, value)
      }),
      { numRuns: 400 },
    )
    assert.ok(whole > 120, `${whole}`)
  })

  const loadsTyped = (definition: AnyDefinition, value: unknown) => {
    try {
      settingsFor(definition, { s: value } as never)
      return true
    } catch (error) {
      assert.ok(error instanceof SettingsError, inspect(error))
      return false
    }
  }

  it('has a schema for each stage that differs, and one for those that are alike', () => {
    const key = setting.string(about, { secret: true, stages: { production: { minLength: 20 } } })
    const schema = valuesSchema(defineSettings({ dome: { key } })) as {
      readonly anyOf: unknown
      readonly $defs: Readonly<Record<string, { readonly $ref?: string; readonly title?: string }>>
    }
    assert.deepEqual(schema.anyOf, [{ $ref: '#/$defs/development' }, { $ref: '#/$defs/production' }])
    assert.deepEqual(
      Object.entries(schema.$defs).map(([stage, { $ref, title }]) => [stage, $ref ?? title]),
      [
        ['development', 'Settings, in development'],
        ['staging', '#/$defs/development'],
        ['production', 'Settings, in production'],
      ],
    )
    assert.throws(() => valuesSchema(defineSettings({ dome: { key } }), { stage: 'prod' }), SettingsError)
  })
})
