import { realpathSync } from 'node:fs'
import { basename, relative } from 'node:path'
import { fileURLToPath } from 'node:url'
import { SERVER, SERVER_ID } from '../code/modules.ts'
import type { Look } from '../project.ts'

/** What no page may reach. */
export interface Forbidden {
  readonly code: 'server-in-page' | 'definition-in-page' | 'env-file-in-page'
  /** What a person calls it. */
  readonly target: string
}

/** Nearly no module of a page is; most can be told by this alone. */
const WORTH_A_LOOK = /virtual:mappa\/server|[\\/]\.env|[\\/](?:node|preload)\.js/
/** Entries of this package for servers, wherever it is installed. */
const SERVER_ENTRY = /[\\/](?:mappa|dist)[\\/](?:dist[\\/])?(node|preload)\.js$/
/** The example holds no values. */
const ENV_FILE = /^\.env(?!\.example$)(?:\..+)?$/

/** Tells of a module, by its id as Vite has it, whether it is one that no page may reach. */
export type Forbids = (id: string) => Forbidden | null

/** What no page may reach: the server side, the definition, and files with values. */
export function forbiddenInPages({ root, file }: Look): Forbids {
  const definition = file === null ? SERVER_ID : basename(file)
  return (id) => (WORTH_A_LOOK.test(id) || id.includes(definition) ? forbiddenAs(id, root, file) : null)
}

function forbiddenAs(id: string, root: string, file: string | null): Forbidden | null {
  if (id === SERVER_ID) return { code: 'server-in-page', target: SERVER }
  // Ids of other virtual modules may hold the path of a file, as those of components do.
  const path = id.replace(/^\0/, '').replace(/[?#].*$/, '')
  const name = basename(path)
  if (ENV_FILE.test(name)) return { code: 'env-file-in-page', target: relative(root, path) }
  if (file !== null && name === basename(file) && isSame(path, file))
    return { code: 'definition-in-page', target: relative(root, file) }
  const entry = SERVER_ENTRY.exec(path)?.[1]
  if (entry !== undefined && isSame(path, fileURLToPath(import.meta.resolve(`mappa/${entry}`))))
    return { code: 'server-in-page', target: `mappa/${entry}` }
  return /[\\/]mappa[\\/]dist[\\/](?:node|preload)\.js$/.test(path)
    ? { code: 'server-in-page', target: `mappa/${entry}` }
    : null
}

function isSame(one: string, other: string): boolean {
  try {
    return realpathSync(one) === realpathSync(other)
  } catch {
    return one === other
  }
}
