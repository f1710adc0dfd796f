import assert from 'node:assert/strict'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { makeProject, REPOSITORY } from '@mappa/tests/support/project'
import { setting } from 'mappa-settings'
import ts from 'typescript'

const DEFINITION = `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  dome: {
    url: setting.url('Address of the dome controller'),
    key: setting.string('Key the dome controller */ asks for', { secret: true, deprecated: 'dome.token' }),
    mode: setting.choice('How the dome moves', { enum: ['drill', 'open'], default: 'drill' }),
    point: setting.custom('Where it points', { convert: (text: string) => text.split('/').map(Number), optional: true }),
    guards: setting.list('Who watches', { items: setting.email('A guard') }),
  },
  night: { places: setting.integer('Places at the eyepiece', { public: true, default: 12 }) },
})
`
const USE = `import { loadSettings } from 'mappa-settings/node'
import { type PublicValues, setting } from 'mappa-settings'
import definition from './settings.definition.ts'
export const settings = loadSettings(definition)
export const url: string = settings.dome.url
export const key: string = settings.dome.key.reveal()
export const mode: 'drill' | 'open' = settings.dome.mode
export const point: readonly number[] | undefined = settings.dome.point
export const guards: readonly string[] = settings.dome.guards
export declare const shown: PublicValues<typeof definition>
export const places: number = shown.night.places
settings.dome.gaurds
${Object.keys(setting)
  .map((name) => `setting.${name}\n`)
  .join('')}`

/** What an editor knows of a project. */
function editor(context: TestContext, definition: string, derived = definition) {
  const { root, write, mappa } = makeProject(context, { 'settings.definition.ts': derived, 'use.ts': USE })
  assert.equal(mappa(['write', 'types']).status, 0)
  write('settings.definition.ts', definition)
  const files = ['use.ts', 'settings.definition.ts', 'settings.env.d.ts'].map((file) => join(root, file))
  const options: ts.CompilerOptions = {
    strict: true,
    noEmit: true,
    module: ts.ModuleKind.NodeNext,
    target: ts.ScriptTarget.ES2023,
    lib: ['lib.es2023.d.ts'],
    types: ['node'],
    typeRoots: [join(REPOSITORY, 'node_modules/@types')],
    allowImportingTsExtensions: true,
    skipLibCheck: true,
  }
  const service = ts.createLanguageService({
    ...ts.sys,
    useCaseSensitiveFileNames: () => true,
    getCompilationSettings: () => options,
    getScriptFileNames: () => files,
    getScriptVersion: () => '1',
    getScriptSnapshot: (file) =>
      existsSync(file) ? ts.ScriptSnapshot.fromString(readFileSync(file, 'utf8')) : undefined,
    getCurrentDirectory: () => root,
    getDefaultLibFileName: ts.getDefaultLibFilePath,
  })
  return {
    hover(expression: string): string {
      const at = USE.indexOf(expression) + expression.lastIndexOf('.') + 1
      const info = service.getQuickInfoAtPosition(files[0]!, at)!
      const tags = (info.tags ?? []).map(({ name, text }) => ` @${name} ${ts.displayPartsToString(text)}`)
      return `${ts.displayPartsToString(info.displayParts)} // ${ts.displayPartsToString(info.documentation)}${tags.join('')}`
    },
    errors: () =>
      service.getSemanticDiagnostics(files[0]!).map((each) => ts.flattenDiagnosticMessageText(each.messageText, '\n')),
  }
}

describe('an editor, after mappa write types', () => {
  it('shows what a setting is for, and its type', (context) => {
    const { hover } = editor(context, DEFINITION)
    const shown = {
      'settings.dome.url': '(property) MappaSettings.DomeSettings.url: string // Address of the dome controller',
      'settings.dome.mode': '(property) MappaSettings.DomeSettings.mode: "drill" | "open" // How the dome moves',
      'shown.night.places': '(property) MappaSettings.NightPublicSettings.places: number // Places at the eyepiece',
    }
    for (const [expression, expected] of Object.entries(shown)) assert.equal(hover(expression), expected)
    assert.match(
      hover('settings.dome.key'),
      /Secret<string> \/\/ Key the dome controller \*\\?\/ asks for @deprecated dome\.token$/,
    )
  })

  it('shows what each function of setting declares, with its parameters and an example', (context) => {
    const { hover } = editor(context, DEFINITION)
    for (const name of Object.keys(setting))
      assert.match(
        hover(`setting.${name}`),
        new RegExp(
          `${name}\\b[\\s\\S]* // Declares a setting that is [\\s\\S]* @param description [\\s\\S]* @example [\\s\\S]*setting\\.${name}\\(`,
        ),
      )
  })

  it('has a short error for a typo, and no other', (context) => {
    assert.deepEqual(editor(context, DEFINITION).errors(), [
      "Property 'gaurds' does not exist on type 'DomeSettings'. Did you mean 'guards'?",
    ])
  })

  it('does not believe types that are out of date', (context) => {
    const { hover, errors } = editor(
      context,
      DEFINITION,
      DEFINITION.replace("setting.url('Address", "setting.port('Address"),
    )
    assert.match(hover('settings.dome.url'), /url: string/)
    assert.equal(errors().length, 1)
  })
})
