import assert from 'node:assert/strict'
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { pathToFileURL } from 'node:url'
import { format, inspect } from 'node:util'
import { importCompat } from '@mappa/tests/support/compat'
import { configOf, makePage, PAGE_DEFINITION } from '@mappa/tests/support/page-project'
import { makeProject } from '@mappa/tests/support/project'
import { defineSettings, environmentLayer, resolveSettings, Secret, SettingsError, setting } from 'mappa-settings'
import { documentLayer, EnvDocument } from 'mappa-settings/envfile'
import { inspectSettings } from 'mappa-settings/node'

const SECRET = 'kq83-made-up-vzpw'
const definition = defineSettings({
  server: { port: setting.port('Port the dome service listens on', { default: 4100 }) },
  dome: {
    key: setting.string('Key the dome controller asks for', { secret: true }),
    url: setting.url('Address of the dome controller', { default: 'http://127.0.0.1:4200' }),
    opens: setting.dateTime('When the dome opens', { default: new Date('2026-11-23T18:30:00Z') }),
  },
})
const resolve = () => resolveSettings(definition, { layers: [environmentLayer({ DOME_KEY: SECRET })] })
const settings = resolve().values! as unknown as Record<string, Record<string, unknown>>

/** What frameworks, test runners and loggers ask of objects. */
const PROBES = [
  '__v_isRef __v_isReactive __v_raw __v_skip pipe constructor length then toJSON nodeType tagName $$typeof asymmetricMatch',
  'isReactComponent _isVue __esModule default getReader on next size Symbol.iterator hasOwnProperty valueOf toString 0',
]
  .join(' ')
  .split(' ')

describe('the settings object', () => {
  for (const group of ['the tree', 'a group']) {
    const object = group === 'the tree' ? settings : settings.dome!
    it(`${group}: can be asked for anything that is no typo`, () => {
      for (const name of PROBES) assert.doesNotThrow(() => (object as Record<string, unknown>)[name], name)
      for (const symbol of [Symbol.iterator, Symbol.toPrimitive, Symbol.toStringTag, Symbol('own')])
        assert.doesNotThrow(() => (object as unknown as Record<symbol, unknown>)[symbol])
    })
    it(`${group}: can be cloned, printed, copied, compared and awaited`, async () => {
      assert.doesNotThrow(() => structuredClone(object))
      assert.doesNotThrow(() => `${object} ${inspect(object)} ${format('%o %O %j %s', object, object, object, object)}`)
      assert.equal(object.constructor, Object)
      assert.ok(Object.hasOwn(object, Object.keys(object)[0]!))
      assert.equal(await (object as object), object)
      assert.deepEqual({ ...object }, { ...object })
      assert.ok(Object.isFrozen(object))
      assert.throws(() => Object.assign(object, { other: 1 }), TypeError)
    })
  }

  it('can be asked by libraries for names that are nearly those of settings', () => {
    const text = (name: string) => setting.string(`Text of ${name}`, { default: 'tonight' })
    const near = 'server letter user lister levels closer clones maps hosts gets users chil'.split(' ')
    const tree = Object.fromEntries(near.map((each) => [each, text(each)]))
    const { values } = resolveSettings(defineSettings({ ...tree, desk: tree }), { layers: [] })
    const probes = 'setter getter use listen listener level close clone map host get child'.split(' ')
    for (const object of [values, (values as { desk: object }).desk] as Record<string, unknown>[])
      for (const name of probes) assert.equal(object[name], undefined, name)
  })

  it('is logged as the plain object that it is', () => {
    assert.equal(inspect(settings.server), '{ port: 4100 }')
    assert.deepEqual(structuredClone(settings.server), { port: 4100 })
    assert.equal(JSON.stringify(settings.server), '{"port":4100}')
  })

  const typos: readonly (readonly [string, () => unknown, string])[] = [
    ['a letter', () => settings.dome!.kye, 'dome.key'],
    ['a letter of a group', () => settings.domme, 'dome'],
    ['the case', () => settings.dome!.URL, 'dome.url'],
    ['the variable name', () => settings.DOME_KEY, 'dome.key'],
    ['one word', () => settings.domeKey, 'dome.key'],
  ]
  for (const [what, read, meant] of typos) {
    it(`tells a typo: ${what}`, () => {
      assert.throws(
        read,
        (error) => error instanceof SettingsError && error.problems[0]!.hint === `Did you mean ${meant}?`,
      )
    })
  }

  it('is the same for two loads, in the eyes of an assertion', () => {
    assert.deepEqual(resolve().values, resolve().values)
  })
})

/** Ways in which the code of a page comes by a whole group. */
const WHOLE: Readonly<Record<string, string>> = {
  'the tree': `import { settings } from 'virtual:mappa/browser'
globalThis.group = settings`,
  'a group': `import { settings } from 'virtual:mappa/browser'
globalThis.group = settings.visitor`,
  'a group taken out': `import { settings } from 'virtual:mappa/browser'
const { visitor } = settings
globalThis.group = visitor`,
  'a group of an import of its own': `const { settings } = await import('virtual:mappa/browser')
globalThis.group = settings.visitor`,
  'a group handed on': `import { hand } from './hand.ts'
globalThis.group = hand.visitor`,
  'a parameter of the same name': `import { settings } from 'virtual:mappa/browser'
const read = (settings: object) => settings
globalThis.group = [settings.visitor.places, read({ visitor: settings.visitor })][1].visitor`,
}

describe('a group in a page that was built', () => {
  for (const vite of ['vite-6', 'vite-7', 'vite']) {
    for (const [what, code] of Object.entries(WHOLE)) {
      it(`${what}, with ${vite}: is an object like that of a server`, async (context) => {
        const page = makePage(context, {
          'settings.definition.ts': PAGE_DEFINITION.replaceAll(", readAt: 'runtime'", ''),
          'src/main.ts': `declare global { var group: unknown }\n${code}`,
          'src/hand.ts': `export { settings as hand } from 'virtual:mappa/browser'`,
        })
        const { build } = await importCompat<typeof import('vite')>(vite)
        await build(configOf(page.root, { build: { modulePreload: false, minify: false, target: 'esnext' } }))
        const assets = join(page.root, 'dist/assets')
        const main = readdirSync(assets).find((each) => /^index.*\.js$/.test(each))!
        const stands = globalThis as { document?: unknown; group?: Record<string, unknown> }
        stands.document = { createElement: () => ({ relList: { supports: () => true } }) }
        context.after(() => delete stands.document)
        await import(pathToFileURL(join(assets, main)).href)
        const group = stands.group!
        for (const name of PROBES) assert.doesNotThrow(() => group[name], name)
        assert.equal(`${group}`, '[object Object]')
        assert.ok(Object.hasOwn(group, what === 'the tree' ? 'visitor' : 'places'))
        const visitor = (what === 'the tree' ? group.visitor : group) as Record<string, unknown>
        assert.equal((structuredClone(visitor) as { places: number }).places, 12)
        assert.deepEqual(visitor.nights, ['Fri', 'Sat'])
        assert.ok(Object.isFrozen(group))
      })
    }
  }
})

/** Pairs of values, and whether two secrets of them are equal. */
const PAIRS: readonly (readonly [unknown, unknown, boolean])[] = [
  ['aa', 'aa', true],
  ['aa', 'bb', false],
  ['1', 1, false],
  [1, 1, true],
  [{ a: 1, b: [2] }, { b: [2], a: 1 }, true],
  [{ a: 1 }, { a: 2 }, false],
  [Uint8Array.of(1, 2), Uint8Array.of(1, 2), true],
  [Uint8Array.of(1, 2), Uint8Array.of(1, 3), false],
  [new Date(5), new Date(5), true],
  [new Date(5), new Date(6), false],
  [['a', 'b'], ['a,b'], false],
  [null, undefined, false],
]

describe('two secrets', () => {
  for (const [a, b, same] of PAIRS) {
    it(`${inspect(a)} and ${inspect(b)} are ${same ? 'equal' : 'not equal'}`, () => {
      const compare = [
        () => assert.deepStrictEqual(new Secret(a), new Secret(b)),
        () => assert.deepStrictEqual({ key: [new Secret(a)] }, { key: [new Secret(b)] }),
      ]
      for (const each of compare) same ? assert.doesNotThrow(each) : assert.throws(each, assert.AssertionError)
    })
  }
  it('tell nothing of their value, whatever is done to them', () => {
    const secret = new Secret(SECRET)
    const shown = [
      inspect(secret, { showHidden: true, getters: true, customInspect: false }),
      JSON.stringify({ ...secret }),
    ]
    for (const text of shown) assert.ok(!text.includes('kq83'), text)
  })
})

describe('what leaves the library', () => {
  const text = `DOME_KEY=${SECRET}\nOTHER="x-\${DOME_KEY}"\n`
  const document = EnvDocument.from(text, { file: '.env' })
  const layer = documentLayer('.env', document)
  const resolution = resolveSettings(definition, { layers: [layer] })
  const objects: Readonly<Record<string, unknown>> = {
    'a resolution': resolution,
    'its settings': resolution.settings,
    'one setting': resolution.settings[1],
    'its candidates': resolution.settings[1]!.candidates(),
    'a text of it': resolution.getText('DOME_KEY', resolution.settings[1]!.candidates()[0]!),
    'a document': document,
    'an entry': document.entries,
    'a layer': layer,
    'a value of a layer': layer.get('DOME_KEY'),
    'a layer of the environment': environmentLayer({ DOME_KEY: SECRET }).get('DOME_KEY'),
  }
  for (const [what, object] of Object.entries(objects)) {
    it(`${what} shows no secret`, () => {
      const shown = [
        inspect(object, { depth: 9 }),
        inspect(object, { depth: 9, showHidden: true }),
        format('%o %O %j', object, object, object),
        JSON.stringify(object),
      ]
      for (const each of shown) assert.ok(!each?.includes('kq83'), each)
    })
  }
  it('an inspection of files shows none either', (context) => {
    const { root } = makeProject(context, { '.env': text })
    const inspection = inspectSettings(definition, { root, environment: {} })
    assert.equal(inspection.values!.dome.key.reveal(), SECRET)
    for (const each of [inspect(inspection, { depth: 9, showHidden: true }), JSON.stringify(inspection)])
      assert.ok(!each.includes('kq83'))
  })
})
