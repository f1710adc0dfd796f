import { createHash, randomBytes } from 'node:crypto'
import type { SkippedPart } from '@mappa/search/read/coverage'
import type { ProjectState } from './project-state.ts'

/** What is known of a file that was searched. */
export interface SearchedFile {
  /** Of its content; `null` for what could not be read. */
  readonly digest: string | null
  readonly skipped: readonly SkippedPart[]
}

/** What builds of one project, definition and stage have written in this process, whichever plugin object they had. */
export interface WrittenOutput {
  /** A name for it, for as long as the process runs. */
  readonly id: string
  /** What was told already, such as problems of files. */
  readonly told: Set<string>
  /** What was searched since the last summary, by its name in the output. */
  readonly recent: Map<string, SearchedFile>
  /** The directories that pages are served from. Absolute paths. */
  readonly directories: Set<string>
  /**
   * What was searched and holds nothing: each file by its name and content.
   *
   * @param wanted what was looked for
   */
  readonly listClean: (wanted: unknown) => Set<string>
}

/** Kept beside the modules, so that two copies of the library know of each other's builds. */
const KEY = Symbol.for('mappa-settings/written-output@1')

interface Registry {
  readonly outputs: Map<string, WrittenOutput>
  /** Secrets are not told apart by what anybody could work out again. */
  readonly salt: Buffer
}

function getRegistry(): Registry {
  const holder = globalThis as { [KEY]?: Registry }
  holder[KEY] ??= { outputs: new Map(), salt: randomBytes(16) }
  return holder[KEY]
}

/**
 * What was written so far for the settings of a state. A build of a server may render into the directory of the pages, by a plugin
 * object of its own; a build that watches begins again with other values.
 */
export function getWrittenOutput({ root, file, report }: ProjectState): WrittenOutput {
  const { outputs, salt } = getRegistry()
  const key = JSON.stringify([root, file, report.stage])
  const known = outputs.get(key) ?? startOutput(key, salt)
  outputs.set(key, known)
  return known
}

function startOutput(id: string, salt: Buffer): WrittenOutput {
  let clean = new Set<string>()
  let version = ''
  return {
    id,
    told: new Set(),
    recent: new Map(),
    directories: new Set(),
    listClean(wanted) {
      const now = createHash('sha256').update(salt).update(JSON.stringify(wanted)).digest('base64')
      // What was searched for other values was not searched for these.
      if (now !== version) clean = new Set()
      version = now
      return clean
    },
  }
}
