import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { inspect } from 'node:util'
import { makeProject } from '@mappa/tests/support/project'
import { Ajv2020 } from 'ajv/dist/2020.js'
import fc from 'fast-check'
import {
  defineSettings,
  definitionFromJson,
  environmentLayer,
  resolveSettings,
  SettingsError,
  setting,
} from 'mappa-settings'
import { definitionSchema, environmentSchema, referenceFile, valuesSchema } from 'mappa-settings/derive'

const about = 'What it is for'
const tree = {
  night: {
    from: setting.integer(about, { optional: true }),
    to: setting.integer(about, { optional: true }),
    last: setting.integer(about, { optional: true }),
    opens: setting.dateTime(about, { optional: true }),
    pause: setting.duration(about, { optional: true }),
  },
  dome: {
    key: setting.string(about, { optional: true, secret: true }),
    keyFile: setting.path(about, { optional: true }),
    port: setting.port(about, { default: 4100 }),
  },
}
type Rules = NonNullable<NonNullable<Parameters<typeof defineSettings<typeof tree>>[1]>['rules']>
type Rule = Rules[number]

/** The codes of what is wrong, with the messages. */
function check(rule: Rule, environment: Record<string, string>, stage = 'development') {
  const definition = defineSettings(tree, { rules: [rule] })
  const { problems } = resolveSettings(definition, { stage, layers: [environmentLayer(environment)] })
  return problems
}

const SECRET = 'drill-canary-81Kf0vQx'
const CASES: readonly (readonly [
  what: string,
  rule: Rule,
  environment: Record<string, string>,
  code: string | null,
])[] = [
  ['ascending', { ascending: ['night.from', 'night.to'] }, { NIGHT_FROM: '20', NIGHT_TO: '22' }, null],
  ['descending', { ascending: ['night.from', 'night.to'] }, { NIGHT_FROM: '22', NIGHT_TO: '20' }, 'not-ascending'],
  ['equal', { ascending: ['night.from', 'night.to'] }, { NIGHT_FROM: '22', NIGHT_TO: '22' }, 'not-ascending'],
  [
    'equal, where that is allowed',
    { ascending: ['night.from', 'night.to'], orEqual: true },
    { NIGHT_FROM: '22', NIGHT_TO: '22' },
    null,
  ],
  [
    'a gap in the middle',
    { ascending: ['night.from', 'night.to', 'night.last'] },
    { NIGHT_FROM: '22', NIGHT_LAST: '20' },
    'not-ascending',
  ],
  [
    'one that is not valid, which is told by itself',
    { ascending: ['night.from', 'night.to'] },
    { NIGHT_FROM: '22', NIGHT_TO: 'x' },
    'not-integer',
  ],
  ['one of two', { exactlyOne: ['dome.key', 'dome.keyFile'] }, { DOME_KEY: SECRET }, null],
  [
    'both of two',
    { exactlyOne: ['dome.key', 'dome.keyFile'] },
    { DOME_KEY: SECRET, DOME_KEY_FILE: 'a' },
    'not-exactly-one',
  ],
  ['none of two', { exactlyOne: ['dome.key', 'dome.keyFile'] }, {}, 'not-exactly-one'],
  ['one that is empty', { exactlyOne: ['dome.key', 'dome.keyFile'] }, { DOME_KEY: '', DOME_KEY_FILE: 'a' }, null],
  ['none of several', { atLeastOne: ['dome.key', 'dome.keyFile'] }, {}, 'not-at-least-one'],
  ['several', { atLeastOne: ['dome.key', 'dome.keyFile'] }, { DOME_KEY: SECRET, DOME_KEY_FILE: 'a' }, null],
  ['all', { allOrNone: ['night.from', 'night.to'] }, { NIGHT_FROM: '1', NIGHT_TO: '2' }, null],
  ['nothing', { allOrNone: ['night.from', 'night.to'] }, {}, null],
  ['a half', { allOrNone: ['night.from', 'night.to'] }, { NIGHT_TO: '2' }, 'not-all-or-none'],
  ['a sum', { sum: ['night.from', 'night.to'], maximum: 24 }, { NIGHT_FROM: '20', NIGHT_TO: '4' }, null],
  [
    'a sum that is too large',
    { sum: ['night.from', 'dome.port'], maximum: 24 },
    { NIGHT_FROM: '20' },
    'sum-out-of-range',
  ],
  ['a sum of durations', { sum: ['night.pause'], minimum: '15m' }, { NIGHT_PAUSE: '14m' }, 'sum-out-of-range'],
  [
    'a check',
    { of: ['night.from', 'dome.port'], check: (from: number, port: number) => from < port || 'no' },
    { NIGHT_FROM: '4101' },
    'rule-refused',
  ],
  ['a check of what is not set, which is not asked', { of: ['night.from'], check: () => 'no' }, {}, null],
  [
    'a check that throws a secret',
    {
      of: ['dome.key'],
      check: (key: string) => {
        throw new Error(key)
      },
    },
    { DOME_KEY: SECRET },
    'rule-refused',
  ],
  [
    'a value that contains the secret beside it',
    { exactlyOne: ['dome.key', 'dome.keyFile'] },
    { DOME_KEY: SECRET, DOME_KEY_FILE: `/run/${SECRET}` },
    'not-exactly-one',
  ],
  [
    'a check of a value that contains a secret',
    {
      of: ['dome.keyFile'],
      check: (file: string) => `no: ${file}`,
    },
    { DOME_KEY: SECRET, DOME_KEY_FILE: `/run/${SECRET}` },
    'rule-refused',
  ],
  [
    'a check that forgets to return',
    { of: ['night.from'], check: (() => undefined) as never },
    { NIGHT_FROM: '1' },
    'rule-refused',
  ],
  [
    'another stage',
    { ascending: ['night.from', 'night.to'], stages: ['production'] },
    { NIGHT_FROM: '22', NIGHT_TO: '20' },
    null,
  ],
]

describe('rules between settings', () => {
  for (const [what, rule, environment, code] of CASES)
    it(`${code === null ? 'are kept by' : 'tell of'} ${what}`, () => {
      const problems = check(rule, environment)
      const isEmpty = environment.DOME_KEY === ''
      assert.deepEqual(
        problems.filter(({ severity }) => severity === 'error').map((each) => each.code),
        code === null ? [] : [code],
        inspect([problems, isEmpty]),
      )
      const told = problems.map(({ message, hint }) => `${message} ${hint}`).join(' ')
      assert.ok(!`${told} ${inspect(problems, { depth: 9 })}`.includes(SECRET), told)
    })

  it('say what to do in words of the project, and where each value is', () => {
    const [problem] = check(
      { ascending: ['night.from', 'night.to'], message: 'A night ends after it begins.' },
      { NIGHT_FROM: '22', NIGHT_TO: '20' },
    )
    assert.equal(
      problem!.message,
      'The settings break the rule night.from < night.to: NIGHT_FROM is "22" (the process environment), NIGHT_TO is "20" (the process environment).',
    )
    assert.equal(problem!.hint, 'A night ends after it begins.')
    assert.deepEqual([problem!.name, problem!.setting], ['NIGHT_TO', 'night.to'])
  })

  it('name settings by paths that the compiler knows', () => {
    assert.throws(
      // @ts-expect-error there is no setting night.two
      () => defineSettings(tree, { rules: [{ ascending: ['night.from', 'night.two'] }] }),
      /Did you mean night\.to\?/,
    )
  })

  it('are the same in JSON, and in its schema', () => {
    const data = {
      settings: { a: { kind: 'integer', description: about }, b: { kind: 'integer', description: about } },
      rules: [{ ascending: ['a', 'b'] }, { sum: ['a', 'b'], maximum: 9, stages: ['production'] }],
    }
    const validate = new Ajv2020({ strict: false }).compile(definitionSchema())
    assert.ok(validate(data), inspect(validate.errors))
    assert.ok(!validate({ ...data, rules: [{ ascending: ['a'], sum: ['b'] }] }))
    const codes = (stage: string) =>
      resolveSettings(definitionFromJson(data), {
        stage,
        layers: [environmentLayer({ A: '8', B: '8' })],
      }).problems.map(({ code }) => code)
    assert.deepEqual(
      [codes('staging'), codes('production')],
      [['not-ascending'], ['not-ascending', 'sum-out-of-range']],
    )
  })

  it('are not told of in CI where a secret that is missing there would keep them', (context) => {
    const settings = {
      dome: {
        key: { kind: 'string', description: about, secret: true, optional: true },
        keyFile: { kind: 'path', description: about, optional: true },
        user: { kind: 'string', description: about, optional: true },
      },
    }
    const check = (rules: readonly object[], environment = {}) => {
      const project = makeProject(context, { 'settings.definition.json': JSON.stringify({ settings, rules }) })
      return project.mappa(['check', '--allow-missing-secrets', '--json'], environment)
    }
    const one = [{ exactlyOne: ['dome.key', 'dome.keyFile'] }]
    const both = { DOME_KEY: SECRET, DOME_KEY_FILE: 'a' }
    const all = [{ allOrNone: ['dome.key', 'dome.user'] }]
    const plain = [{ atLeastOne: ['dome.user', 'dome.keyFile'] }]
    assert.deepEqual(
      [
        check(one),
        check(one, both),
        check(all, { DOME_USER: 'a' }),
        check(all, { DOME_KEY: SECRET }),
        check(plain),
      ].map(({ status }) => status),
      [0, 1, 0, 1, 1],
    )
  })

  it('stand in schemas, as far as a schema can say them', () => {
    const ajv = new Ajv2020({ strict: false })
    const forms = fc.constantFrom('exactlyOne', 'atLeastOne', 'allOrNone')
    const paths = fc.constantFrom(['dome.key', 'dome.keyFile'], ['night.from', 'night.to', 'dome.key'])
    const text = fc.constantFrom(undefined, '', '7')
    fc.assert(
      fc.property(forms, paths, fc.tuple(text, text, text, text), (form, named, [key, file, from, to]) => {
        const definition = defineSettings(tree, { rules: [{ [form]: named } as never] })
        const environment = Object.fromEntries(
          Object.entries({ DOME_KEY: key, DOME_KEY_FILE: file, NIGHT_FROM: from, NIGHT_TO: to }).filter(
            ([, value]) => value !== undefined,
          ),
        ) as Record<string, string>
        const { values, settings } = resolveSettings(definition, { layers: [environmentLayer(environment)] })
        assert.equal(ajv.validate(environmentSchema(definition), environment), values !== null, inspect(environment))
        const data = { night: {}, dome: {} } as Record<string, Record<string, unknown>>
        for (const { declaration, value } of settings)
          if (value !== undefined) data[declaration.keys[0]!]![declaration.keys[1]!] = value
        assert.equal(ajv.validate(valuesSchema(definition), data), values !== null, inspect(data))
      }),
      { numRuns: 100, seed: 36 },
    )
    const rules: Rules = [{ ascending: ['night.from', 'night.to'] }]
    const { $comment } = valuesSchema(defineSettings(tree, { rules }))
    assert.equal($comment, 'Not expressed here: night.from < night.to.')
  })

  it('stand in the reference', () => {
    const definition = defineSettings(tree, {
      rules: [
        { exactlyOne: ['dome.key', 'dome.keyFile'], message: 'The key itself, or its file.' },
        { sum: ['night.pause'], maximum: '1h' },
      ],
    })
    assert.match(
      referenceFile(definition),
      /## Rules between settings\n\n- exactly one of dome\.key and dome\.keyFile is set: The key itself, or its file\.\n- night\.pause is at most 1h\n/,
    )
  })

  const wrong: readonly (readonly [what: string, rules: unknown, codes: readonly string[]])[] = [
    ['no list', {}, ['rules-wrong']],
    ['no object', [null], ['options-not-object']],
    ['no form', [{ message: 'x' }], ['rule-form-wrong']],
    ['two forms', [{ sum: ['night.from'], allOrNone: ['night.from', 'night.to'] }], ['rule-form-wrong']],
    ['a path that is none', [{ ascending: ['night.from', 'night.two'] }], ['rule-setting-unknown']],
    ['a path twice', [{ ascending: ['night.from', 'night.from'] }], ['setting-option-wrong']],
    ['one path alone', [{ ascending: ['night.from'] }], ['setting-option-wrong']],
    ['texts in an order', [{ ascending: ['dome.key', 'dome.keyFile'] }], ['rule-kind-wrong']],
    ['two units', [{ sum: ['night.from', 'night.pause'], maximum: 1 }], ['rule-kind-wrong']],
    ['a sum of dates', [{ sum: ['night.opens'], maximum: 1 }], ['rule-kind-wrong']],
    ['a sum without limits', [{ sum: ['night.from'] }], ['setting-option-missing']],
    ['a limit that is no number', [{ sum: ['night.pause'], maximum: 'soon' }], ['setting-option-wrong']],
    ['presence of what is always there', [{ allOrNone: ['night.from', 'dome.port'] }], ['rule-needs-optional']],
    [
      'an option of another form',
      [{ exactlyOne: ['night.from', 'night.to'], orEqual: true }],
      ['setting-option-unknown'],
    ],
    ['a stage that is none', [{ ascending: ['night.from', 'night.to'], stages: ['prod'] }], ['setting-option-wrong']],
    ['a check that is none', [{ check: true, of: ['night.from'] }], ['setting-option-wrong']],
  ]
  for (const [what, rules, codes] of wrong)
    it(`are refused, with their number: ${what}`, () => {
      try {
        defineSettings(tree, { rules: rules as never })
        assert.fail('nothing was refused')
      } catch (error) {
        assert.ok(error instanceof SettingsError, inspect(error))
        assert.deepEqual(
          error.problems.map(({ code }) => code),
          codes,
        )
        if (codes[0] !== 'rules-wrong' && codes[0] !== 'rule-needs-optional') assert.match(error.message, /rule 1/)
      }
    })

  it('hold for random values just where they hold by hand', () => {
    const value = fc.option(fc.integer({ min: -9, max: 9 }), { nil: undefined })
    fc.assert(
      fc.property(
        value,
        value,
        value,
        fc.boolean(),
        fc.integer({ min: -9, max: 9 }),
        (from, to, last, orEqual, most) => {
          const all = [from, to, last]
          const present = all.filter((each) => each !== undefined)
          const environment = Object.fromEntries(
            ['NIGHT_FROM', 'NIGHT_TO', 'NIGHT_LAST'].flatMap((name, at) =>
              all[at] === undefined ? [] : [[name, String(all[at])]],
            ),
          )
          const paths = ['night.from', 'night.to', 'night.last'] as const
          const expected = {
            'not-ascending': !present.every(
              (each, at) => at === 0 || present[at - 1]! < each || (orEqual && present[at - 1] === each),
            ),
            'not-exactly-one': present.length !== 1,
            'not-at-least-one': present.length === 0,
            'not-all-or-none': present.length % 3 !== 0,
            'sum-out-of-range': present.reduce((sum, each) => sum + each, 0) > most,
          }
          const rules: Rules = [
            { ascending: paths, orEqual },
            { exactlyOne: paths },
            { atLeastOne: paths },
            { allOrNone: paths },
            { sum: paths, maximum: most },
          ]
          const { problems } = resolveSettings(defineSettings(tree, { rules }), {
            layers: [environmentLayer(environment)],
          })
          const found = problems.map(({ code }) => code as string)
          for (const [code, isBroken] of Object.entries(expected)) assert.equal(found.includes(code), isBroken, code)
        },
      ),
      { numRuns: 300, seed: 36 },
    )
  })
})
