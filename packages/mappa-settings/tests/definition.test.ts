import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import {
  defineSettings,
  definitionFromJson,
  resolveSettings,
  SettingsError,
  setting,
  type Values,
} from 'mappa-settings'
import { documentLayer, EnvDocument } from 'mappa-settings/envfile'

const about = 'What it is for'

/** The codes of everything that is wrong with a definition. */
function faultsOf(make: () => unknown): string[] {
  try {
    make()
    return []
  } catch (error) {
    assert.ok(error instanceof SettingsError)
    for (const each of error.problems) assert.ok(each.message.length > 0 && each.hint.length > 0)
    return error.problems.map((each) => each.code)
  }
}

// Plain JavaScript can write anything; the types are put aside to see what it gets told.
const any = setting as unknown as Record<string, (...words: unknown[]) => never>
const define = defineSettings as unknown as (...words: unknown[]) => { settings: { path: string; name: string }[] }

describe('a definition', () => {
  it('gives names that follow from paths', () => {
    const names: readonly [object, object, string][] = [
      [{ dome: { key: setting.string(about) } }, {}, 'DOME_KEY'],
      [{ visitor: { starMapUrl: setting.url(about) } }, {}, 'VISITOR_STAR_MAP_URL'],
      [{ starMapURL: setting.url(about) }, {}, 'STAR_MAP_URL'],
      [{ URLOfMap: setting.url(about) }, {}, 'URL_OF_MAP'],
      [{ mirror2: { width: setting.integer(about) } }, {}, 'MIRROR2_WIDTH'],
      [{ dome: { key: setting.string(about) } }, { prefix: 'FERN_' }, 'FERN_DOME_KEY'],
      [{ dome: { key: setting.string(about, { name: 'OLD_DOME_KEY' }) } }, { prefix: 'FERN_' }, 'OLD_DOME_KEY'],
    ]
    for (const [tree, options, name] of names) assert.equal(define(tree, options).settings[0]!.name, name)
  })

  it('says what is wrong with it, setting by setting, and everything at once', () => {
    const loop: Record<string, unknown> = {}
    loop.again = loop
    const cases: readonly [string, () => unknown, ...string[]][] = [
      ['an unknown option', () => define({ a: any.string!(about, { minLenght: 3 }) }), 'setting-option-unknown'],
      ['an option of another kind', () => define({ a: any.boolean!(about, { minimum: 3 }) }), 'setting-option-unknown'],
      [
        'an option of a wrong type',
        () => define({ a: any.string!(about, { minLength: '3' }) }),
        'setting-option-wrong',
      ],
      ['a pattern that is none', () => define({ a: any.string!(about, { pattern: '(' }) }), 'setting-option-wrong'],
      ['options that are none', () => define({ a: any.string!(about, 'secret') }), 'options-not-object'],
      ['a choice without choices', () => define({ a: any.choice!(about) }), 'setting-option-missing'],
      ['the same choice twice', () => define({ a: any.choice!(about, { enum: ['x', 'x'] }) }), 'setting-option-wrong'],
      ['no description', () => define({ a: any.string!() }), 'setting-description-missing'],
      ['options first', () => define({ a: any.string!({ secret: true }) }), 'setting-description-missing'],
      [
        'secret and public',
        () => define({ a: any.string!(about, { secret: true, public: true }) }),
        'setting-secret-public',
      ],
      [
        'a secret in the code',
        () => define({ a: any.string!(about, { secret: true, default: 'x' }) }),
        'setting-secret-default',
      ],
      [
        'optional and a default',
        () => define({ a: any.string!(about, { optional: true, default: 'x' }) }),
        'setting-optional-default',
      ],
      [
        'a default of another kind',
        () => define({ a: any.port!(about, { default: '4100' }) }),
        'setting-default-wrong',
      ],
      [
        'a default beyond its rule',
        () => define({ a: any.integer!(about, { default: 9, maximum: 5 }) }),
        'setting-default-wrong',
      ],
      [
        'a default that is no choice',
        () => define({ a: any.choice!(about, { enum: ['x'], default: 'y' }) }),
        'setting-default-wrong',
      ],
      ['a default beyond its kind', () => define({ a: any.port!(about, { default: 70000 }) }), 'setting-default-wrong'],
      ['one name twice', () => define({ a: { b: any.string!(about) }, aB: any.string!(about) }), 'setting-name-taken'],
      ['a wrong name', () => define({ a: any.string!(about, { name: 'A-B' }) }), 'setting-option-wrong'],
      ['a name every object has', () => define({ constructor: any.string!(about) }), 'setting-path-wrong'],
      ['a name promises have', () => define(JSON.parse('{ "then": {} }')), 'setting-path-wrong'],
      ['a key with a dot', () => define({ 'a.b': any.string!(about) }), 'setting-path-wrong'],
      ['a text for a setting', () => define({ a: 'x' }), 'definition-not-tree'],
      ['a list for a group', () => define({ a: [any.string!(about)] }), 'definition-not-tree'],
      ['a setting alone', () => define(any.string!(about)), 'definition-not-tree'],
      ['nothing', () => define(undefined), 'definition-not-tree'],
      ['an empty group', () => define({ a: {} }), 'definition-empty'],
      ['a group in itself', () => define(loop), 'definition-circular'],
      ['a wrong prefix', () => define({ a: any.string!(about) }, { prefix: '1-' }), 'prefix-wrong'],
      ['no stages', () => define({ a: any.string!(about) }, { stages: [] }), 'stages-wrong'],
      [
        'a stage that is a path',
        () => define({ a: any.string!(about) }, { stages: ['../../etc'] }),
        'stage-name-wrong',
      ],
      ['a stage named local', () => define({ a: any.string!(about) }, { stages: ['local'] }), 'stage-name-wrong'],
      ['a stage twice', () => define({ a: any.string!(about) }, { stages: ['x', 'x'] }), 'stage-name-twice'],
      ['an unknown option of all', () => define({ a: any.string!(about) }, { stage: [] }), 'definition-option-unknown'],
      [
        'several faults',
        () => define({ a: any.string!(), b: any.port!(about, { default: 0 }) }),
        'setting-description-missing',
        'setting-default-wrong',
      ],
    ]
    for (const [what, make, ...codes] of cases) assert.deepEqual(faultsOf(make), codes, what)
    assert.throws(
      () => define({ dome: { key: any.string!(about, { secert: true }) } }),
      /dome\.key has the option secert.*Did you mean secret\?/s,
    )
  })

  it('can be plain JSON with the same content', () => {
    const json = definitionFromJson({
      $schema: './settings.schema.json',
      stages: ['day', 'night'],
      prefix: 'FERN_',
      settings: {
        server: { port: { kind: 'port', description: about, default: 4100 } },
        dome: { key: { kind: 'string', description: about, secret: true, pattern: '^open-' } },
      },
    })
    const code = defineSettings(
      {
        server: { port: setting.port(about, { default: 4100 }) },
        dome: { key: setting.string(about, { secret: true, pattern: '^open-' }) },
      },
      { stages: ['day', 'night'], prefix: 'FERN_' },
    )
    const plain = (definition: typeof code) =>
      JSON.stringify([definition.stages, definition.prefix, definition.settings])
    assert.equal(plain(json as typeof code), plain(code))
    assert.deepEqual(
      faultsOf(() => definitionFromJson({ settings: { a: { kind: 'prot', description: about } } })),
      ['setting-kind-unknown'],
    )
    assert.deepEqual(
      faultsOf(() => definitionFromJson(JSON.parse('{"settings":{"__proto__":{"kind":"string","description":"x"}}}'))),
      ['setting-path-wrong'],
    )
    assert.deepEqual(
      faultsOf(() => definitionFromJson([])),
      ['definition-not-tree'],
    )
    assert.deepEqual(
      faultsOf(() => definitionFromJson({ settings: { a: {} }, stage: 'x' })),
      ['definition-option-unknown', 'definition-empty'],
    )
    assert.deepEqual(definitionFromJson({ settings: {} }).settings, [])
  })

  it('converts without guessing', () => {
    const definition = defineSettings({
      string: setting.string(about, { optional: true, minLength: 2, maxLength: 4, pattern: /^[^x]/ }),
      integer: setting.integer(about, { optional: true, minimum: -5, exclusiveMaximum: 1e15, multipleOf: 5 }),
      number: setting.number(about, { optional: true, exclusiveMinimum: -2, maximum: 1e300, multipleOf: 0.1 }),
      boolean: setting.boolean(about, { optional: true }),
      port: setting.port(about, { optional: true, minimum: 80 }),
      url: setting.url(about, { optional: true, pattern: '^(https|postgres):' }),
      choice: setting.choice(about, { enum: ['drill', 'open'], optional: true }),
    })
    const cases: Record<string, readonly (readonly [string, unknown])[]> = {
      string: [
        ['ab', 'ab'],
        [' ab ', ' ab '],
        ['🌙🌙🌙🌙', '🌙🌙🌙🌙'],
        ['🌙', 'too-short'],
        ['abcde', 'too-long'],
        ['xb', 'pattern-differs'],
      ],
      integer: [
        ['10', 10],
        ['-5', -5],
        ['-0', 0],
        ['0', 0],
        ['-10', 'below-minimum'],
        ['1000000000000000', 'not-below'],
        ['7', 'not-multiple'],
        ...['1.0', '+5', '05', '5 ', '0x10', '1e1', '５', '1_000', 'NaN', 'Infinity', '5px', '--5', '٥'].map(
          (text) => [text, 'not-integer'] as const,
        ),
        ['9007199254740993', 'integer-inexact'],
      ],
      number: [
        ['0.3', 0.3],
        ['-1.5e0', -1.5],
        ['1e2', 100],
        ['-0', 0],
        ['-2', 'not-above'],
        ['1e301', 'above-maximum'],
        ['0.25', 'not-multiple'],
        ...['.5', '5.', '1,5', '01', '0x10', 'NaN', 'Infinity', '1e', '½', ' 1'].map(
          (text) => [text, 'not-number'] as const,
        ),
        ['1e999', 'number-too-large'],
      ],
      boolean: [
        ...['true', 'TRUE', 'yes', 'On', '1'].map((text) => [text, true] as const),
        ...['false', 'False', 'no', 'OFF', '0'].map((text) => [text, false] as const),
        ...['enabled', 'y', 't', 'null', '2', ' true', '00', 'ﬀalse'].map((text) => [text, 'not-boolean'] as const),
      ],
      port: [
        ['80', 80],
        ['65535', 65535],
        ['79', 'below-minimum'],
        ...['0', '65536', '-1', '080', '8e3', '80.0', '８０', '999999999999'].map(
          (text) => [text, 'not-port'] as const,
        ),
      ],
      url: [
        ['https://dome.fernhollow.example', 'https://dome.fernhollow.example'],
        ['postgres://desk:x@db.fernhollow.example:5432/nights', 'postgres://desk:x@db.fernhollow.example:5432/nights'],
        ['http://dome.fernhollow.example', 'pattern-differs'],
        ...[
          'localhost:4100',
          'dome.fernhollow.example',
          '/dome',
          'https:/dome',
          'https://',
          'https://a b.example',
          '//dome.example',
          'https://dome.example\n',
        ].map((text) => [text, 'not-url'] as const),
      ],
      choice: [
        ['drill', 'drill'],
        ['Drill', 'not-in-enum'],
        ['opne', 'not-in-enum'],
      ],
    }
    for (const [name, pairs] of Object.entries(cases)) {
      for (const [text, expected] of pairs) {
        const environment = {
          get: (asked: string) =>
            asked === name.toUpperCase()
              ? {
                  origin: { layer: 'environment', file: null, line: null, column: null },
                  nameColumn: null,
                  value: text,
                  broken: false,
                  setOn: () => null,
                  codeFrame: () => null,
                }
              : undefined,
        }
        const layer = {
          id: 'environment',
          kind: 'environment' as const,
          title: 'the process environment',
          state: 'read' as const,
          problems: [],
          names: () => [],
          ...environment,
        }
        const { values, problems } = resolveSettings(definition, { layers: [layer] })
        const found = values === null ? problems[0]!.code : (values as Record<string, unknown>)[name]
        assert.equal(Object.is(found, expected), true, `${name} ${JSON.stringify(text)} gives ${String(found)}`)
      }
    }
  })

  it('types its values', () => {
    const definition = defineSettings({
      server: { port: setting.port(about, { default: 4100 }) },
      dome: {
        key: setting.string(about, { secret: true }),
        mode: setting.choice(about, { enum: ['drill', 'open'] }),
        note: setting.string(about, { optional: true }),
      },
    })
    const { values } = resolveSettings(definition, {
      layers: [documentLayer('.env', EnvDocument.from('DOME_KEY=made-up\nDOME_MODE=open'))],
    })
    const settings: Values<typeof definition> = values!
    const port: number = settings.server.port
    const mode: 'drill' | 'open' = settings.dome.mode
    const note: string | undefined = settings.dome.note
    assert.deepEqual([port, mode, note, settings.dome.key.reveal()], [4100, 'open', undefined, 'made-up'])
    // Each of these is an error of the compiler, which checks this file, and one when the program runs.
    // @ts-expect-error a misspelt name
    assert.throws(() => settings.dome.kye, /There is no setting dome\.kye.*Did you mean dome\.key\?/s)
    assert.throws(() => {
      // @ts-expect-error a value can't be set
      settings.server.port = 1
    }, TypeError)
    // @ts-expect-error a secret is no text
    assert.equal(settings.dome.key.length, undefined)
    // @ts-expect-error an option that no port has
    assert.throws(() => defineSettings({ port: setting.port(about, { pattern: /x/ }) }), SettingsError)
    // @ts-expect-error a default that is no choice
    assert.throws(() => defineSettings({ mode: setting.choice(about, { enum: ['x'], default: 'y' }) }), SettingsError)
  })
})
