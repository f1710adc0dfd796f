import assert from 'node:assert/strict'
import { readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { domeApiDefinition } from '@mappa/tests/support/examples'
import { DEFINITION, EXAMPLE, makeProject } from '@mappa/tests/support/project'
import { typeErrors } from '@mappa/tests/support/type-check'
import { defineSettings, resolveSettings, setting } from 'mappa-settings'
import { exampleFile } from 'mappa-settings/derive'
import { documentLayer, EnvDocument } from 'mappa-settings/envfile'

const definition = defineSettings({
  plain: setting.string('Stands alone'),
  server: {
    port: setting.port('Port the dome service listens on', { default: 4100 }),
    banner: setting.string('Line shown first.\nMay have two lines', { default: "it's $5\nonly" }),
  },
  dome: {
    key: setting.string('Key the dome controller asks for', { secret: true, minLength: 24, pattern: /^open-/ }),
    mode: setting.choice('How the dome moves', { enum: ['drill', 'open'] }),
    speed: setting.number('Degrees a second', { exclusiveMinimum: 0, maximum: 5, optional: true, public: true }),
  },
})

describe('the example file', () => {
  it('says what each setting is for and what it may hold, in the groups of the definition', () => {
    const text = exampleFile(definition)
    const parts = [
      "# Stands alone\n# (text; required)\nPLAIN='<PLAIN>'\n\n# == server ==\n",
      '# (port; default 4100)\n#SERVER_PORT=4100\n',
      '# Line shown first.\n# May have two lines\n',
      '#SERVER_BANNER="it\'s \\$5\n#only"\n',
      "# (text; secret; required; at least 24 characters; matches /^open-/)\nDOME_KEY='<DOME_KEY>'\n",
      "# (one of drill, open; required)\nDOME_MODE='<DOME_MODE>'\n",
      '# (number; public; optional; more than 0; at most 5)\n',
    ]
    for (const part of parts) assert.ok(text.includes(part), part)
    assert.equal(exampleFile(definition), text)
  })

  it('has placeholders that no setting accepts, and defaults that every setting does', () => {
    const copied = EnvDocument.from(exampleFile(definition))
    assert.deepEqual(copied.problems, [])
    const { problems } = resolveSettings(definition, { layers: [documentLayer('.env', copied)] })
    assert.deepEqual(
      problems.map(({ code, name }) => [code, name]),
      ['PLAIN', 'DOME_KEY', 'DOME_MODE'].map((name) => ['placeholder-left', name]),
    )
    const uncommented = EnvDocument.from(exampleFile(definition).replace(/^#(?! )/gm, ''))
    const names = new Set(uncommented.entries.map((entry) => entry.name))
    for (const { name } of definition.settings) assert.ok(names.has(name), name)
    const { settings } = resolveSettings(definition, { layers: [documentLayer('.env', uncommented)] })
    assert.deepEqual(
      settings.filter((each) => each.valid).map((each) => each.value),
      [4100, "it's $5\nonly"],
    )
  })

  it('is kept true by mappa write example, which leaves a right one alone', (context) => {
    const project = makeProject(context, { 'settings.definition.ts': DEFINITION })
    const file = join(project.root, '.env.example')
    const steps: readonly [readonly string[], number, RegExp][] = [
      [['--verify'], 1, /does not exist[\s\S]*\+DOME_KEY='<DOME_KEY>'/],
      [[], 0, /\.env\.example is written/],
      [[], 0, /is up to date/],
      [['--verify'], 0, /is up to date/],
    ]
    for (const [words, status, stdout] of steps) {
      const outcome = project.mappa(['write', 'example', ...words])
      assert.equal(outcome.status, status)
      assert.match(outcome.stdout, stdout)
    }
    const { mtimeMs } = statSync(file)
    project.mappa(['write', 'example'])
    assert.equal(statSync(file).mtimeMs, mtimeMs)
    project.write('settings.definition.ts', DEFINITION.replace('Address of', 'Place of'))
    const verified = project.mappa(['write', 'example', '--verify'])
    assert.deepEqual([verified.status, /-# Address of[\s\S]*\+# Place of/.test(verified.stdout)], [1, true])
    assert.deepEqual(JSON.parse(project.mappa(['write', 'example', '--json']).stdout), {
      file: '.env.example',
      right: false,
      written: true,
    })
  })

  it('is true in the example', () => {
    assert.equal(readFileSync(join(EXAMPLE, '.env.example'), 'utf8'), exampleFile(domeApiDefinition))
  })
})

describe('mappa write modules', () => {
  const shared = `visitor: {
    places: setting.integer('Places at the eyepiece', { public: true }),
    mirror: setting.choice('Which mirror is in use', { public: true, enum: ['east', 'west'], readAt: 'runtime' }),
    opens: setting.dateTime('When the dome opens', { public: true, optional: true, readAt: 'runtime' }),
    nights: setting.list('Open nights', { public: true, items: setting.string('A night') }),
  },
  desk: { key: setting.string('Key of the desk', { secret: true }) },`
  const json = {
    visitor: {
      places: { kind: 'integer', description: 'Places at the eyepiece', public: true },
      mirror: { kind: 'choice', description: 'Which mirror', public: true, enum: ['east', 'west'], readAt: 'runtime' },
      opens: { kind: 'dateTime', description: 'When the dome opens', public: true, optional: true, readAt: 'runtime' },
      nights: { kind: 'list', description: 'Open nights', public: true },
    },
    desk: { key: { kind: 'string', description: 'Key of the desk', secret: true } },
  }
  const use = `import { settings } from 'virtual:mappa/browser'
import { settings as all } from 'virtual:mappa/server'
export const places: number = settings.visitor.places
export const mirror: 'east' | 'west' = settings.visitor.mirror
export const opens: Date | undefined = settings.visitor.opens
export const nights: readonly string[] = settings.visitor.nights
export const key: string = all.desk.key.reveal()
// @ts-expect-error: no page has a secret.
settings.desk
// @ts-expect-error: it may be missing.
settings.visitor.opens.getTime()
// @ts-expect-error: nobody changes a value.
settings.visitor.places = 3
// @ts-expect-error: no such setting.
settings.visitor.placse
`
  const start = `import type { RuntimeData, RuntimeValues } from 'mappa-settings'
import { runtimeSettings } from 'mappa-settings/browser'
import type definition from './settings.definition.ts'
const data: RuntimeData<typeof definition> = runtimeSettings<typeof definition>()
export const opens: string | undefined = data.visitor.opens
export type Opens = RuntimeValues<typeof definition>['visitor']['opens'] & Date
// @ts-expect-error: it has its value at build time.
data.visitor.places
`
  for (const [language, files] of Object.entries<Record<string, string>>({
    TypeScript: {
      'settings.definition.ts': `import { defineSettings, setting } from 'mappa-settings'\nexport default defineSettings({ ${shared} })\n`,
      'start.ts': start,
    },
    JSON: { 'settings.definition.json': JSON.stringify({ settings: json }) },
  })) {
    it(`types what pages and servers import, of a definition in ${language}`, (context) => {
      const options = {
        strict: true,
        module: 'preserve',
        target: 'es2023',
        lib: ['es2023', 'dom'],
        types: [],
        noEmit: true,
      }
      const project = makeProject(context, {
        ...files,
        'use.ts': use,
        'tsconfig.json': JSON.stringify({ compilerOptions: { ...options, allowImportingTsExtensions: true } }),
      })
      const { status, stdout } = project.mappa(['write', 'modules'])
      assert.equal(status, 0, stdout)
      assert.equal(typeErrors(project.root), '')
      assert.equal(project.mappa(['write', 'modules', '--verify']).status, 0)
    })
  }
})
