import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { inspect } from 'node:util'
import type { Kind } from '@mappa/core/definition/kinds/kind'
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
import { documentLayer, EnvDocument } from 'mappa-settings/envfile'

const about = 'What it is for'

/** What a text becomes, or the codes of what is wrong. */
function outcome(kind: AnySetting, text: string): unknown {
  const { settings, values, problems } = resolveSettings(defineSettings({ a: kind }), {
    layers: [environmentLayer({ A: text })],
  })
  return values === null ? problems.map(({ code }) => code).join() : settings[0]!.value
}

/** The codes of what is wrong with a definition. */
function faults(make: () => unknown): string[] {
  try {
    make()
    return []
  } catch (error) {
    assert.ok(error instanceof SettingsError, inspect(error))
    return error.problems.map(({ code }) => code)
  }
}

const deep = (levels: number) => '['.repeat(levels) + ']'.repeat(levels)
const pem = (label: string, body: string) => `-----BEGIN ${label}-----\n${body}\n-----END ${label}-----\n`
const WHOLE = 'MApmZXJuaG9sbG93'

const VALUES: readonly (readonly [what: string, kind: AnySetting, text: string, expected: unknown])[] = [
  [
    'rules of items hold',
    setting.list(about, { items: setting.port(about, { minimum: 1024 }) }),
    '80,4100',
    'below-minimum',
  ],
  [
    'checks of items hold',
    setting.list(about, { items: setting.string(about, { check: (each) => each !== 'x' || 'no' }) }),
    'a,x',
    'check-refused',
  ],
  [
    'items are told by number',
    setting.list(about, { items: setting.string(about, { minLength: 2 }) }),
    'a,bb,c',
    'too-short,too-short',
  ],
  ['multiples are exact', setting.integer(about, { multipleOf: 2 }), '1000000001', 'not-multiple'],
  ['large multiples are exact', setting.integer(about, { multipleOf: 5 }), '10000000003', 'not-multiple'],
  ['multiples of fractions', setting.number(about, { multipleOf: 0.1 }), '0.3', 0.3],
  ['multiples of small fractions', setting.number(about, { multipleOf: 0.01 }), '1e-7', 'not-multiple'],
  ['8.2MB', setting.size(about), '8.2MB', 8_200_000],
  ['1.001kB', setting.size(about), '1.001kB', 1001],
  ['1.0001kB', setting.size(about), '1.0001kB', 'size-inexact'],
  ['2.3d', setting.duration(about), '2.3d', 198_720_000],
  ['0.1s in parts', setting.duration(about), '0.1s0.2ms', 100.2],
  ['equal bytes', setting.list(about, { items: setting.base64(about), uniqueItems: true }), 'Zm4=,Zm4', 'item-twice'],
  [
    'equal dates',
    setting.list(about, { items: setting.dateTime(about), uniqueItems: true }),
    '2026-11-23T18:30:00Z,2026-11-23T19:30:00+01:00',
    'item-twice',
  ],
  ['a whole key', setting.pem(about), pem('PRIVATE KEY', WHOLE), pem('PRIVATE KEY', WHOLE)],
  ['a truncated key', setting.pem(about), pem('PRIVATE KEY', WHOLE.slice(0, 12)), 'pem-truncated'],
  ['a key without its beginning', setting.pem(about), pem('CERTIFICATE', WHOLE.slice(4)), 'pem-truncated'],
  ['one digit', setting.pem(about), pem('PRIVATE KEY', 'A'), 'pem-broken'],
  ['padding in the middle', setting.pem(about), pem('OTHER', 'Zg==\nZm4='), 'pem-broken'],
  ['headers alone', setting.pem(about), pem('RSA PRIVATE KEY', 'Proc-Type: 4,ENCRYPTED'), 'pem-broken'],
  ['another label', setting.pem(about), pem('OTHER', 'Zm4='), pem('OTHER', 'Zm4=')],
  ['deep JSON', setting.json(about), deep(10_000), 'json-too-deep'],
  ['JSON that is not too deep', setting.json(about), deep(3), [[[]]]],
  ['a port 0', setting.port(about), '0', 'not-port'],
  ['a port 0 that is allowed', setting.port(about, { minimum: 0 }), '0', 0],
  ['a leap day of the year 0', setting.dateTime(about), '0000-02-29T00:00:00Z', new Date('0000-02-29T00:00:00Z')],
  ['no leap day in 1900', setting.dateTime(about), '1900-02-29T00:00:00Z', 'date-time-out-of-range'],
  ['an address without a host', setting.url(about), 'https:///a.example', 'not-url'],
  ['two addresses in one', setting.url(about), 'https://a.example,https://b.example', 'not-url'],
  ['an address of a file', setting.url(about), 'file:///srv/maps', 'file:///srv/maps'],
  [
    'a schema that gives nothing',
    setting.json(about, {
      schema: { '~standard': { version: 1, vendor: 'fern', validate: () => ({ value: undefined }) } },
    }),
    '1',
    'check-gives-nothing',
  ],
  [
    'a text too long for its pattern',
    setting.string(about, { pattern: /^a+$/ }),
    'a'.repeat(6000),
    'pattern-not-tried',
  ],
  [
    'a text that may be so long',
    setting.string(about, { pattern: /^a+$/, maxLength: 6000 }),
    'a'.repeat(6000),
    'a'.repeat(6000),
  ],
]

describe('values are converted exactly', () => {
  for (const [what, kind, text, expected] of VALUES) it(what, () => assert.deepEqual(outcome(kind, text), expected))
})

const item = (options: object) => () =>
  defineSettings({ a: setting.list(about, { items: setting.string(about, options as never) as never }) })
const DEFINITIONS: readonly (readonly [what: string, make: () => unknown, codes: readonly string[]])[] = [
  ['a misspelt option of items', item({ minLenght: 2 }), ['setting-option-unknown']],
  ['a secret item', item({ secret: true }), ['setting-option-unknown']],
  ['an optional item', item({ optional: true }), ['setting-option-unknown']],
  [
    'items without what their kind needs',
    () => definitionFromJson({ settings: { a: { kind: 'list', description: about, items: 'choice' } } }),
    ['setting-option-missing'],
  ],
  [
    'a default that breaks a rule of one stage',
    () => defineSettings({ a: setting.integer(about, { default: 1, stages: { production: { minimum: 5 } } }) }),
    ['setting-default-wrong'],
  ],
  [
    'a default for all stages that keeps them',
    () => defineSettings({ a: setting.integer(about, { default: 7, stages: { production: { minimum: 5 } } }) }),
    [],
  ],
  [
    'a default in words of its kind',
    () =>
      defineSettings({
        a: setting.duration(about, { default: '28d', maximum: '30d' }),
        b: setting.size(about, { default: '10MB' }),
      }),
    [],
  ],
  [
    'a default in words that are none',
    () => defineSettings({ a: setting.duration(about, { default: '28 days' }) }),
    ['setting-option-unreadable'],
  ],
  [
    'a default of many units',
    () => defineSettings({ a: setting.duration(about, { default: 16_010, maximum: 16_010 }) }),
    [],
  ],
  [
    'a list whose default does not survive text',
    () => defineSettings({ a: setting.list(about, { default: ['a,b'] }) }),
    ['setting-default-wrong'],
  ],
  [
    'a list with blanks in its default',
    () => defineSettings({ a: setting.list(about, { default: [' a '] }) }),
    ['setting-default-wrong'],
  ],
  [
    'data that no JSON holds',
    () => defineSettings({ a: setting.json(about, { default: 1n }) }),
    ['setting-default-wrong'],
  ],
  [
    'a default that is its placeholder',
    () => defineSettings({ a: setting.string(about, { default: '<A>' }) }),
    ['setting-default-wrong'],
  ],
  ['a large default', () => defineSettings({ a: setting.base64(about, { default: new Uint8Array(300_000) }) }), []],
  [
    'limits that leave nothing',
    () => defineSettings({ a: setting.integer(about, { minimum: 5, maximum: 4 }) }),
    ['limits-contradict'],
  ],
  [
    'limits of one stage that leave nothing',
    () => defineSettings({ a: setting.integer(about, { minimum: 5, stages: { staging: { maximum: 4 } } }) }),
    ['limits-contradict'],
  ],
  [
    'two ways to convert',
    () =>
      defineSettings({
        a: setting.custom(about, {
          convert: String,
          schema: { '~standard': { version: 1, vendor: 'x', validate: (value: unknown) => ({ value }) } },
        } as never),
      }),
    ['setting-options-exclusive'],
  ],
  [
    'a rotation of no time',
    () => defineSettings({ a: setting.string(about, { rotateEvery: 'P0D' }) }),
    ['setting-option-wrong'],
  ],
  ['no options', () => defineSettings({ a: setting.string(about) }, null as never), ['options-not-object']],
  [
    'a stage called like a member of objects',
    () => defineSettings({ a: setting.string(about, { default: 'x' }) }, { stages: ['constructor'] }),
    [],
  ],
]

describe('a definition says what is wrong with it', () => {
  for (const [what, make, codes] of DEFINITIONS) it(what, () => assert.deepEqual(faults(make), codes))
  it('and works with a stage called like a member of objects', () => {
    const definition = defineSettings({ a: setting.string(about, { default: 'x' }) }, { stages: ['constructor'] })
    assert.deepEqual(resolveSettings(definition).problems, [])
  })
})

/** Another setting, the values it is waited for to have, a text of it, and whether that is one of them. */
const CONDITIONS: readonly (readonly [string, AnySetting, unknown, string, boolean])[] = [
  ['a date', setting.dateTime(about), new Date('2026-11-23T18:30:00Z'), '2026-11-23T19:30:00+01:00', true],
  ['a list', setting.list(about, { items: setting.port(about) }), [80, 443], '80, 443', true],
  ['another list', setting.list(about, { items: setting.port(about) }), [80, 443], '443,80', false],
  ['one of two lists', setting.list(about), [['a'], ['b', 'c']], 'b,c', true],
  ['data', setting.json(about), { a: 1, b: [2] }, '{"b":[2],"a":1}', true],
  ['a duration in words', setting.duration(about), '1h', '60m', true],
  ['bytes', setting.base64(about), Uint8Array.of(102, 110), 'Zm4', true],
]

describe('a rule that waits for another setting', () => {
  for (const [what, other, wanted, text, holds] of CONDITIONS) {
    it(`${what}: ${holds}`, () => {
      const definition = defineSettings({
        other,
        a: setting.string(about, { optional: true, requiredIf: { other: wanted } }),
      })
      const { problems } = resolveSettings(definition, { layers: [environmentLayer({ OTHER: text })] })
      assert.deepEqual(
        problems.map(({ code }) => code),
        holds ? ['missing-then'] : [],
      )
    })
  }
})

const former = defineSettings({
  x: setting.string(about, { formerly: ['OLD'], default: 'dd', secret: false }),
  y: setting.string(about),
})
const key = defineSettings({ key: setting.string(about, { formerly: ['TOKEN'] }), header: setting.string(about) })

/** Layers, lowest first, and what two settings become. */
const REFERENCES: readonly (readonly [string, typeof former | typeof key, readonly string[], readonly unknown[]])[] = [
  ['a former name is the setting', key, ['TOKEN=abc\nHEADER="Bearer-${KEY}"'], ['abc', 'Bearer-abc']],
  ['a new name answers to the former', key, ['KEY=abc\nHEADER=$TOKEN'], ['abc', 'abc']],
  ['a default that a former name replaces', former, ['OLD=o\nY=$X'], ['o', 'o']],
  ['a default', former, ['Y=$X-$OLD'], ['dd', 'dd-dd']],
  ['an empty text that stands for the default', former, ['X=\nY=${X:-no}'], ['dd', 'dd']],
  ['the layer below, by another name', key, ['TOKEN=a\nHEADER=h', 'TOKEN=${KEY}b'], ['ab', 'h']],
  ['another name in the same file', key, ['TOKEN=a\nKEY=${TOKEN}b\nHEADER=h'], ['ab', 'h']],
]

describe('a reference sees what the setting itself is', () => {
  for (const [what, definition, texts, expected] of REFERENCES) {
    it(what, () => {
      const layers = texts.map((text, index) =>
        documentLayer(`.env${index}`, EnvDocument.from(text, { file: `.env${index}` })),
      )
      const { settings, values, problems } = resolveSettings(definition as typeof key, { layers })
      assert.notEqual(values, null, inspect(problems))
      assert.deepEqual(
        settings.map(({ value }) => value),
        expected,
      )
    })
  }
})

const SECRET_TEXTS: readonly (readonly [string, string])[] = [
  ['a $ without quotes', 'KEY=pa$sw0rdRest_0815'],
  ['a $ in double quotes', 'KEY="pa$sw0rdRest_0815"'],
  ['a reason', 'KEY="ab${c:?sw0rdRest_0815}"'],
  ['a value that a secret is made of', 'KEY=$PART\nPART="x$sw0rdRest_0815"'],
  ['a stray line with =', 'KEY=x\nsk-live-sw0rdRest_0815=x'],
  ['a stray line with :', 'KEY=x\nsw0rdRest_0815: x'],
  ['a stray name', 'KEY=x\nSW0RD_REST_0815'],
  ['a stray line twice', 'KEY=x\nsw0rdRest_0815: x\nsw0rdRest_0815: y'],
  ['a name behind a quote that is open', 'KEY="x\nsw0rdRest_0815=a b'],
  ['a name behind a line that is not understood', 'KEY=x\n+++\nsw0rdRest_0815=a$'],
  ['a label', 'KEY="-----BEGIN SW0RD REST-----"'],
]

describe('nothing of a secret and of a line that is not understood is told', () => {
  const definition = defineSettings({ key: setting.pem(about, { secret: true, label: 'PRIVATE KEY' }) })
  for (const [what, text] of SECRET_TEXTS) {
    it(what, () => {
      const { problems } = resolveSettings(definition, {
        layers: [documentLayer('.env', EnvDocument.from(text, { file: '.env' }))],
      })
      assert.ok(problems.some(({ severity }) => severity === 'error'))
      const document = EnvDocument.from(text)
      const shown = JSON.stringify([problems, document]) + inspect([problems, document], { depth: 9 })
      assert.doesNotMatch(shown, /sw0rd|0815|SW0RD/)
    })
  }
  it('but the name of a setting is', () => {
    for (const text of ['KEY: x', 'K.E.Y=x\nKEY-=x'])
      assert.match(
        inspect(resolveSettings(definition, { layers: [documentLayer('.env', EnvDocument.from(text))] }).problems),
        /KEY/,
      )
  })
})

describe('typed values', () => {
  const kinds: readonly (readonly [string, AnySetting, fc.Arbitrary<unknown>])[] = [
    ['integer', setting.integer(about), fc.maxSafeInteger()],
    ['number', setting.number(about), fc.double({ noNaN: true, noDefaultInfinity: true }).map((each) => each + 0)],
    ['duration', setting.duration(about), fc.oneof(fc.nat(), fc.double({ min: 0, max: 1e12, noNaN: true }))],
    ['size', setting.size(about), fc.maxSafeNat()],
    [
      'dateTime',
      setting.dateTime(about),
      fc.date({ min: new Date('0000-01-01T00:00:00Z'), max: new Date('9999-12-31T23:59:59Z'), noInvalidDate: true }),
    ],
    ['base64', setting.base64(about), fc.uint8Array({ minLength: 1 })],
    ['json', setting.json(about), fc.jsonValue().map((each) => JSON.parse(JSON.stringify(each)))],
    ['list', setting.list(about, { items: setting.integer(about) }), fc.array(fc.maxSafeInteger(), { minLength: 1 })],
  ]
  for (const [name, kind, values] of kinds) {
    it(`survive text and back: ${name}`, () => {
      fc.assert(
        fc.property(values, (value) => {
          const { options } = kind
          const own = kind.kind as Kind
          const converted = own.convert(own.toText(value, options), options)
          assert.ok('value' in converted, inspect([value, own.toText(value, options)]))
          assert.deepEqual(converted.value, value)
        }),
        { numRuns: 500 },
      )
    })
  }
})

describe('a problem with a value', () => {
  const cases: Readonly<Record<string, readonly [text: string, range: readonly (number | null)[]]>> = {
    'on one line': ['DOME_PORT=open # why\n', [1, 11, 1, 15]],
    'in quotes': ["# first\nDOME_PORT='op en'\n", [2, 11, 2, 18]],
    'of several lines': ['DOME_PORT="op\nen"\n', [1, 11, 2, 4]],
    'of lines that end in CRLF': ['DOME_PORT="op\r\nen"\r\n', [1, 11, 2, 4]],
    'with a reference': ['DOME_PORT=${DOME}\n', [1, 11, 1, 18]],
  }
  for (const [name, [text, range]] of Object.entries(cases)) {
    it(`says where a value ${name} begins and ends`, () => {
      const definition = defineSettings({ dome: { port: setting.port('Port') } })
      const layer = documentLayer('.env', EnvDocument.from(text, { file: '.env' }))
      const { problems } = resolveSettings(definition, { layers: [layer] })
      const { line, column, endLine, endColumn } = problems.find((each) => each.setting === 'dome.port')!
      assert.deepEqual([line, column, endLine, endColumn], range)
    })
  }

  it('in no file has no range', () => {
    const definition = defineSettings({ dome: { port: setting.port('Port') } })
    const { problems } = resolveSettings(definition, { layers: [environmentLayer({ DOME_PORT: 'open' })] })
    assert.deepEqual([problems[0]!.line, problems[0]!.endLine, problems[0]!.endColumn], [null, null, null])
  })
})
