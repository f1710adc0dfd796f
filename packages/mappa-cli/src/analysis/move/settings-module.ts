import type { Node } from '@babel/types'
import { fs, path } from '@mappa/node/fs/builtin'
import { listImports } from '@mappa/source/javascript/imports'
import { parseSource } from '@mappa/source/javascript/parser'
import { readPlainName } from '@mappa/source/javascript/tree'
import { readManifest } from '../../project/manifest.ts'
import { compilerConfig } from '../../project/modules.ts'
import { chooseEndingStyle, type EndingStyle, withEnding } from './import-paths.ts'

/** The module of a project that loads its settings, for others to import. */
export interface SettingsModule {
  /** Its absolute path. */
  readonly file: string
  /** The name of the settings among its exports. */
  readonly exported: string
  /** Its text, where it has to be written first; `null` where it is there. */
  readonly text: string | null
  /** How relative paths end in the project, as far as can be told. */
  readonly ending: EndingStyle
}

/** What the plugin hands to pages in the place of that module. */
export const BROWSER_MODULE: SettingsModule = {
  file: 'virtual:mappa/browser',
  exported: 'settings',
  text: null,
  ending: 'source',
}

/**
 * Finds the module that loads the settings, or drafts one beside the definition.
 *
 * @param definition the absolute path of the definition
 * @param sources absolute paths of the project's source files
 */
export function chooseSettingsModule(definition: string, root: string, sources: readonly string[]): SettingsModule {
  const ending = chooseProjectEnding(root, sources)
  for (const file of sources) {
    const exported = findExport(file)
    if (exported !== null) return { file, exported, text: null, ending }
  }
  const file = chooseFreeFile(definition)
  return { file, exported: 'settings', text: draft(definition, file, root, ending), ending }
}

/** The name under which a module exports what `loadSettings` gave back. */
function findExport(file: string): string | null {
  const text = read(file)
  if (text === null || !text.includes('loadSettings') || !text.includes('mappa-settings/node')) return null
  const body = parseSource(text, file)?.body ?? []
  const named = new Set<string>()
  for (const node of body) {
    const names = findLoadedNames(node)
    if (names.length > 0 && node.type === 'ExportNamedDeclaration') return names[0]!
    for (const each of names) named.add(each)
    if (isDefaultExport(node, named)) return 'default'
  }
  // `export { settings }`, and the forms of CommonJS.
  const [local] = named
  if (local === undefined) return null
  const exported = `export\\s*\\{[^}]*\\b${local}\\b|exports(?:\\.${local}\\s*=|\\s*=\\s*\\{[^}]*\\b${local}\\b)`
  return new RegExp(exported).test(text) ? local : null
}

function isDefaultExport(node: Node, named: ReadonlySet<string>): boolean {
  if (node.type !== 'ExportDefaultDeclaration') return false
  return isLoad(node.declaration) || named.has(readPlainName(node.declaration))
}

/** The names that a statement gives to what `loadSettings` gave back. */
function findLoadedNames(node: Node): string[] {
  const declared = node.type === 'ExportNamedDeclaration' ? node.declaration : node
  if (declared?.type !== 'VariableDeclaration') return []
  return declared.declarations.flatMap(({ id, init }) => (id.type === 'Identifier' && isLoad(init) ? id.name : []))
}

function isLoad(node: Node | null | undefined): boolean {
  return node?.type === 'CallExpression' && readPlainName(node.callee) === 'loadSettings'
}

/** `settings.ts` beside `settings.definition.ts`, or another name where something else has that one. */
function chooseFreeFile(definition: string): string {
  const directory = path.dirname(definition)
  const ending = definition.endsWith('.json') ? '.mjs' : path.extname(definition)
  const name = ['settings', 'loaded-settings', 'mappa-settings'].find(
    (each) => !fs.readdirSync(directory).some((file) => file.replace(/\.[cm]?[jt]sx?$/, '') === each),
  )
  return path.join(directory, `${name ?? 'settings-of-this-process'}${ending}`)
}

function draft(definition: string, file: string, root: string, ending: EndingStyle): string {
  const comment =
    '/** The settings of this process. A wrong or missing one ends it here, with a report of all of them. */'
  const specifier = `./${path.basename(definition)}`
  if (definition.endsWith('.json')) {
    return `import { readFileSync } from 'node:fs'
import { definitionFromJson } from 'mappa-settings'
import { loadSettings } from 'mappa-settings/node'

const definition = definitionFromJson(JSON.parse(readFileSync(new URL('${specifier}', import.meta.url), 'utf8')))

${comment}
export const settings = loadSettings(definition, { root: ${OWN_URL}, onErrors: 'exit' })
`
  }
  const own = read(definition) ?? ''
  if (/\.js$/.test(file) && /\bmodule\.exports\b/.test(own)) {
    return `const { pathToFileURL } = require('node:url')
const { loadSettings } = require('mappa-settings/node')
const definition = require('${specifier}')

${comment}
exports.settings = loadSettings(definition, { root: pathToFileURL(__filename), onErrors: 'exit' })
`
  }
  // JavaScript runs as it is, so its paths are whole.
  const from = /\.[cm]?ts$/.test(file) ? withEnding(specifier, ending) : specifier
  // Compiled to CommonJS, a file has no import.meta.
  const isCommonJs = /\.ts$/.test(file) && compilesToCommonJs(root)
  return `${isCommonJs ? "import { pathToFileURL } from 'node:url'\n" : ''}import { loadSettings } from 'mappa-settings/node'
import definition from '${from}'

${comment}
export const settings = loadSettings(definition, { root: ${isCommonJs ? 'pathToFileURL(__filename)' : OWN_URL}, onErrors: 'exit' })
`
}

/** Where a module stands, so that a program finds its files wherever it is started. */
const OWN_URL = 'import.meta.url'

function compilesToCommonJs(root: string): boolean {
  const module = compilerConfig(root)?.config.compilerOptions?.module ?? ''
  if (/^commonjs$/i.test(module)) return true
  return /^node/i.test(module) && readManifest(root).type !== 'module'
}

/** How relative paths end in a project: by what its sources do, else by what its compiler allows. */
export function chooseProjectEnding(root: string, sources: readonly string[]): EndingStyle {
  const seen: string[] = []
  for (const file of sources.slice(0, 200)) {
    seen.push(...listImports(read(file) ?? '', file).filter((each) => /^\.\.?\//.test(each)))
    if (seen.length > 0) return chooseEndingStyle(seen)
  }
  const config = compilerConfig(root)
  if (config === null) return 'source'
  const { compilerOptions: options = {} } = config.config
  if (options.allowImportingTsExtensions || options.rewriteRelativeImportExtensions) return 'source'
  const bundled = /^(bundler|node|node10)$/i.test(options.moduleResolution ?? '')
  return bundled || /^commonjs$/i.test(options.module ?? '') ? 'none' : 'compiled'
}

function read(file: string): string | null {
  try {
    return fs.statSync(file).size > 1024 * 1024 ? null : fs.readFileSync(file, 'utf8')
  } catch {
    return null
  }
}
