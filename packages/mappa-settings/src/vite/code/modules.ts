import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Declaration } from '@mappa/core/definition/definition'
import { browserModules } from '@mappa/core/page/browser-module'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { RUNTIME_VALUE_TEXTS } from '@mappa/core/problems/catalogue/runtime-values'
import { settingsError } from '@mappa/core/problems/settings-error'
import type { ProjectState } from '../session/project-state.ts'

/** What page code imports. */
export const BROWSER = 'virtual:mappa/browser'
/** What server code imports. */
export const SERVER = 'virtual:mappa/server'
/** The part of `mappa-settings/browser` that runtime values need. Its text is handed out, so that it need not lie where pages may read. */
const READER = 'virtual:mappa/reader'

/** What tells typos in a page that is being developed; handed out in the same way. */
const GUARD = 'virtual:mappa/guarded'

/** Ids of virtual modules begin so, by a convention of bundlers, and no file has such a name. */
const own = (name: string) => `\0${name}`
/** The id that Vite knows the server side by. */
export const SERVER_ID = own(SERVER)
/** The module that a page has only where it reads runtime values. */
export const RUNTIME_ID = own(`${BROWSER}/at-runtime`)
/** Every id that is resolved here. */
export const OWN_IDS = /^\0virtual:mappa\//
/** Every specifier that is. */
export const OWN_SPECIFIERS = /^virtual:mappa\//

/** The id of a specifier. Whether there is such a module shows when it is loaded. */
export function resolveOwn(specifier: string): string {
  return own(specifier)
}

/** The text of what was built to run in pages. */
function readPageText(file: string): string {
  return readFileSync(fileURLToPath(new URL(file, import.meta.resolve('mappa-settings/browser'))), 'utf8')
}

/** Where a module is loaded. */
export interface LoadingFor {
  /** True for code that runs on a server. */
  readonly server: boolean
  /** True while serving for development, where the stage is known and stays. */
  readonly dev: boolean
  /** What a build writes into server code. */
  readonly built: BuiltFor
}

/** How a server that was built finds its settings. */
export interface BuiltFor {
  /** The directory of the layer files, relative to that of the project. */
  readonly layerDirectory: string
  /** True if it may be started for another stage than it was built for. */
  readonly allowOtherStage: boolean
}

/**
 * The code of a virtual module.
 *
 * @throws {SettingsError} where there is no such module
 */
export function getCode(id: string, state: ProjectState, { server, dev, built }: LoadingFor): string {
  const name = id.slice(1)
  if (name === SERVER) return server ? writeServerCode(state, dev, built) : 'export const settings = undefined\n'
  if (name === READER) return readPageText('browser.js')
  if (name === GUARD) return readPageText('guarded.js')
  const settings = (state.inspection?.settings ?? []).filter(({ declaration }) => declaration.public)
  const start = server ? { from: SERVER, exportedAs: 'byPath' } : { from: READER, exportedAs: 'runtimeValues' }
  const code = browserModules(settings, BROWSER, start).get(name)
  if (code !== undefined && dev && name === BROWSER) {
    const declarations = settings.map((each) => each.declaration)
    return writeStrictCode(declarations, server)
  }
  if (code !== undefined) return dev && !server && id === RUNTIME_ID ? withoutPage(code) : code
  throw settingsError(pageProblem('module-unknown', { asked: name }))
}

/**
 * While developing, a worker gets all settings as one object too, of which it may read those of the build. In a build it has only what
 * it reads.
 */
function withoutPage(code: string): string {
  return code.replace('export const values = ', "export const values = typeof document === 'undefined' ? {} : ")
}

/**
 * While developing, groups tell typos as those of a server do; in a build that is found out beforehand. The sentence is made here
 * rather than in the page, where nothing of the catalogue should be.
 */
function writeStrictCode(settings: readonly Declaration[], server: boolean): string {
  const { message, hint } = pageProblem('public-unknown', { asked: '{asked}', near: '{close}' })
  const names = settings.map(({ keys, name }) => ({ keys, name }))
  const atRuntime = server ? [] : settings.flatMap(({ path, readAt }) => (readAt === 'runtime' ? [path] : []))
  return `import * as tree from '${BROWSER}/settings'
import { collectAliases, guardGroup } from '${GUARD}'
const sentence = ${JSON.stringify(`${message}\n→ ${hint}`)}
const aliases = collectAliases(${JSON.stringify(names)})
const refuse = (asked, near) => {
  throw Object.assign(new Error(sentence.replace('{asked}', () => asked).replace('{close}', () => near)), { name: 'SettingsError' })
}
const absent = new Set(typeof document === 'undefined' ? ${JSON.stringify(atRuntime)} : [])
const get = () => {
  throw Object.assign(new Error(${JSON.stringify(RUNTIME_VALUE_TEXTS['payload-no-page'])}), { name: 'SettingsError' })
}
const guarded = (group, path) => {
  const members = {}
  for (const [key, value] of Object.entries(group)) {
    const isGroup = Object.prototype.toString.call(value) === '[object Module]'
    const member = { value: isGroup ? guarded(value, path + key + '.') : value, enumerable: true }
    Object.defineProperty(members, key, absent.has(path + key) ? { get, enumerable: true } : member)
  }
  return guardGroup(members, { path, aliases, refuse })
}
export const settings = guarded(tree, '')
`
}

/** Server code gets its values when it starts, from where it runs; nothing of a server's values is written into a build. */
function writeServerCode({ file, root, inspection }: ProjectState, dev: boolean, built: BuiltFor): string {
  const from = JSON.stringify(file)
  const definition = file?.endsWith('.json')
    ? `import { definitionFromJson } from 'mappa-settings'\nimport data from ${from}\nconst definition = definitionFromJson(data)`
    : `import definition from ${from}`
  const options = dev ? JSON.stringify({ stage: inspection?.stage, root }) : writeBuildOptions(inspection, built)
  return `import { findProjectRoot, loadSettings } from 'mappa-settings/node'
${definition}
export const settings = loadSettings(definition, ${options})
export const byPath = (shape) => Object.fromEntries(
  Object.keys(shape).map((path) => [path, path.split('.').reduce((group, key) => group[key], settings)]),
)
`
}

/** What a built server is told of its build: where the layer files are from where it lies, and its stage. */
function writeBuildOptions(
  inspection: ProjectState['inspection'],
  { layerDirectory, allowOtherStage }: BuiltFor,
): string {
  const { stage, settings } = inspection!
  // A page without values of the build is the same for every stage.
  const isForAll = allowOtherStage || !settings.some(({ declaration }) => declaration.readAt === 'build')
  const root = `findProjectRoot(import.meta.url, ${JSON.stringify(layerDirectory)})`
  return `{ root: ${root}, onErrors: 'exit', buildStage: ${JSON.stringify(stage)}, allowOtherStage: ${isForAll} }`
}
