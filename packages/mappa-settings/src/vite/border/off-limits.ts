import { existsSync, readdirSync, readFileSync, realpathSync } from 'node:fs'
import { basename, join, relative, resolve, sep } from 'node:path'
import { fileURLToPath } from 'node:url'
import { holdsValues } from '@mappa/core/layers/env-file-name'
import { listLayerFiles } from '@mappa/core/layers/order'
import { SERVER, SERVER_ID } from '../code/modules.ts'
import type { ProjectState } from '../session/project-state.ts'

/** What no page may reach. */
export interface Forbidden {
  readonly code: 'server-in-page' | 'definition-in-page' | 'env-file-in-page'
  /** What a person calls it. */
  readonly target: string
}

/** Says of files and modules whether a page may reach them. */
export interface OffLimits {
  /** Of a file, by its absolute path. */
  readonly file: (path: string) => Forbidden | null
  /**
   * Of a module, by its id as Vite has it: also a module that only stands for a file.
   *
   * @param keepsLinks true where Vite does not follow links
   */
  readonly module: (id: string, keepsLinks?: boolean) => Forbidden | null
  /** What the ids of all such modules match, and few others do. */
  readonly pattern: RegExp
  /** The files with values that there are: layer files, what they are links to, and mounted ones. */
  readonly valueFiles: readonly { readonly file: string; readonly target: string }[]
}

/** Entries of this package for servers, wherever it is installed. */
const SERVER_ENTRY = /[\\/](?:mappa-settings|dist)[\\/](?:dist[\\/])?(node|preload)\.js$/
/** What nearly no id of a page's module holds. */
const WORTH_A_LOOK = /virtual:mappa\/server|[\\/]\.env|[\\/](?:node|preload)\.js/i

const known = new WeakMap<ProjectState, OffLimits>()

/** What no page may reach: the server side, the definition, and files with values. */
export function offLimits(state: ProjectState): OffLimits {
  const found = known.get(state) ?? findOffLimits(state)
  known.set(state, found)
  return found
}

function findOffLimits(state: ProjectState): OffLimits {
  const { root } = state
  const definitions = new Map(listDefinitionFiles(state).map((each) => [resolveLink(each), each]))
  const directory = state.definition?.directory == null ? null : resolve(root, state.definition.directory)
  const directories = directory === null ? [] : [directory, resolveLink(directory)]
  const valueFiles = [...findLayers(state), ...(directory === null ? [] : listFiles(directory))].map((file) => ({
    file,
    target: relative(root, file),
  }))
  const links = new Map(valueFiles.map(({ file, target }) => [resolveLink(file), target]))
  // Telling texts of all of them, so that other paths are not looked up.
  const signs = [...definitions.keys(), ...definitions.values(), ...links.keys(), ...directories].map((each) =>
    basename(each).toLowerCase(),
  )
  const isWorthALook = (path: string) => {
    const lower = path.toLowerCase()
    return WORTH_A_LOOK.test(path) || signs.some((each) => lower.includes(each))
  }
  const findVerdict = (path: string, real: string): Forbidden | null => {
    // A page may have an address of its own below such a name.
    const isMounted = existsSync(path) && directories.some((each) => isNested(path, each) || isNested(real, each))
    if (holdsValues(path) || isMounted) return { code: 'env-file-in-page', target: relative(root, path) }
    const link = links.get(real)
    if (link !== undefined || holdsValues(real))
      return { code: 'env-file-in-page', target: link ?? relative(root, real) }
    const part = definitions.get(real)
    if (part !== undefined) return { code: 'definition-in-page', target: relative(root, part) }
    return serverEntry(path, real)
  }
  const file = (path: string): Forbidden | null => {
    const real = resolveLink(path)
    return isWorthALook(path) || isWorthALook(real) ? findVerdict(path, real) : null
  }
  const module = (id: string, keepsLinks = false): Forbidden | null => {
    if (id === SERVER_ID) return { code: 'server-in-page', target: SERVER }
    // Ids of other virtual modules may hold the path of a file, as those of components do.
    const path = id.replace(/^\0/, '').replace(/[?#].*$/, '')
    if (keepsLinks) return file(path)
    return isWorthALook(path) ? findVerdict(path, resolveLink(path)) : null
  }
  const pattern = new RegExp([WORTH_A_LOOK.source, ...signs.map(literal)].join('|'), 'i')
  return { file, module, pattern, valueFiles }
}

/** The definition, and every file of it that declares settings: what both sides share declares none. */
function listDefinitionFiles({ file, parts }: ProjectState): readonly string[] {
  return file === null ? [] : parts.filter((each) => each === file || declaresSettings(each))
}

function declaresSettings(file: string): boolean {
  // In JSON, a setting says its kind.
  const sign = file.endsWith('.json')
    ? /"kind"\s*:/
    : /\bfrom\s*['"]mappa-settings['"]|\b(?:import|require)\s*\(\s*['"]mappa-settings['"]/
  try {
    return sign.test(readFileSync(file, 'utf8'))
  } catch {
    return false
  }
}

/** Every file of values that lies beside the program or is shared with it, for whatever stage. */
function findLayers({ root, definition }: ProjectState): readonly string[] {
  const names = new Set((definition?.stages ?? []).flatMap((stage) => listLayerFiles(stage)))
  const directories = [root, ...(definition?.layersFrom ?? []).map((each) => join(root, each))]
  return directories.flatMap((directory) =>
    findNames(directory)
      .filter((each) => names.has(each) || holdsValues(each))
      .map((each) => join(directory, each)),
  )
}

function listFiles(directory: string): readonly string[] {
  return findNames(directory).map((each) => join(directory, each))
}

function findNames(directory: string): readonly string[] {
  try {
    return readdirSync(directory)
  } catch {
    return []
  }
}

function serverEntry(path: string, real: string): Forbidden | null {
  // What bundlers for pages get in the place of either.
  const standIn = /[\\/]dist[\\/]not-for-pages[\\/](node|preload)\.js$/.exec(path)?.[1]
  if (standIn !== undefined) return { code: 'server-in-page', target: `mappa-settings/${standIn}` }
  const entry = SERVER_ENTRY.exec(path)?.[1]
  if (entry === undefined) return null
  const isOurs =
    real === resolveLink(fileURLToPath(import.meta.resolve(`mappa-settings/${entry}`))) ||
    /[\\/]mappa-settings[\\/]dist[\\/](?:node|preload)\.js$/.test(path)
  return isOurs ? { code: 'server-in-page', target: `mappa-settings/${entry}` } : null
}

function literal(text: string): string {
  return text.replace(/[\\^$.*+?()[\]{}|/-]/g, '\\$&')
}

function isNested(path: string, directory: string): boolean {
  return path.startsWith(`${directory}${sep}`) || path === directory
}

function resolveLink(path: string): string {
  try {
    return realpathSync(path)
  } catch {
    return path
  }
}
