import type { Definition } from '@mappa/core/definition/definition'
import { listAllAncestors, listAncestors, type StageTree } from '@mappa/core/definition/stages'
import { LARGEST_FILE } from '@mappa/core/envfile/reading/decode'
import { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import type { Layer } from '@mappa/core/layers/layer'
import { listLayerFiles } from '@mappa/core/layers/order'
import type { Source } from '@mappa/core/layers/source'
import { documentLayer, emptyLayer } from '@mappa/core/layers/sources'
import { type Problem, problem } from '@mappa/core/problems/problem'
import { fs, path } from '../fs/builtin.ts'
import { explainRefusal } from '../fs/regular-file.ts'
import { findNearFiles } from './near-files.ts'

const { existsSync, readdirSync, readFileSync, statSync } = fs
const { join, resolve } = path

/** The env files of a project. */
export interface EnvFiles {
  /** Four sources for each directory, and two for each stage that others are like, lowest first. */
  readonly sources: readonly Source[]
  /**
   * Problems with files that are not read: those whose names are probably mistaken; and a directory that can't be listed.
   *
   * @param stages all stages of the definition
   */
  readonly problems: (stage: string, stages: readonly string[]) => readonly Problem[]
}

/**
 * The env files of a project, as sources. A file that is not there gives an absent layer; one that can't be read, a problem. Each
 * directory is listed once, now.
 *
 * @param root the directory of the project
 * @param definition its stages, and the directories whose layer files lie below those of the project
 */
export function envFiles(root: string, definition: StageTree & Pick<Definition, 'layersFrom'>): EnvFiles {
  const { layersFrom } = definition
  const own = listFiles(root, null, definition)
  if (layersFrom.length === 0) return own
  const parts = [...layersFrom.map((directory) => listFiles(root, directory, definition)), own]
  return {
    sources: parts.flatMap(({ sources }) => sources),
    problems: (stage, stages) => parts.flatMap(({ problems }) => problems(stage, stages)),
  }
}

/** @param directory the directory that the project shares with others; `null` for its own */
function listFiles(root: string, directory: string | null, tree: StageTree): EnvFiles {
  const inner = (file: string) => (directory === null ? file : `${directory}/${file}`)
  let present: readonly string[] = []
  let notListed: readonly Problem[] = []
  try {
    present = readdirSync(directory === null ? root : join(root, directory)).filter((name) => /env/i.test(name))
  } catch (error) {
    notListed = [notListedProblem(root, directory, (error as NodeJS.ErrnoException).code === 'ERR_ACCESS_DENIED')]
  }
  return {
    sources: listSlots(tree).map(({ id, findName, isFor }): Source => {
      return {
        id: inner(id),
        kind: 'file',
        isFor,
        read(stage) {
          const file = inner(findName(stage))
          return present.includes(findName(stage))
            ? readEnvLayer(root, file, directory !== null)
            : emptyLayer(file, file, [])
        },
        paths: (stage) => [join(root, inner(findName(stage)))],
      }
    }),
    problems: (stage, stages) => [
      ...notListed,
      ...findNearFiles(present, stage, stages).map(({ file: name, meant }) => {
        const file = inner(name)
        const quoted = /^[\w./-]+$/.test(file) ? file : quote(file)
        return problem('file-name-near', { file, meant: inner(meant), quoted }, { file })
      }),
    ],
  }
}

/** The places of files in the order of layers, and the stages that have each. */
function listSlots(tree: StageTree): readonly {
  readonly id: string
  readonly findName: (stage: string) => string
  readonly isFor: (stage: string) => boolean
}[] {
  const all = listLayerFiles('<stage>').map((id, index) => ({
    id,
    findName: (stage: string) => listLayerFiles(stage)[index]!,
    isFor: () => true,
  }))
  const ofAncestors = listAllAncestors(tree).flatMap((ancestor) =>
    listLayerFiles(ancestor)
      .slice(2)
      .map((id) => ({
        id,
        findName: () => id,
        isFor: (stage: string) => listAncestors(tree, stage).includes(ancestor),
      })),
  )
  return [...all.slice(0, 2), ...ofAncestors, ...all.slice(2)]
}

function notListedProblem(root: string, directory: string | null, denied: boolean): Problem {
  const whole = directory === null ? root : join(root, directory)
  if (denied) return problem('root-denied', { root: whole })
  return directory === null ? problem('root-missing', { root }) : problem('layers-from-missing', { directory })
}

/** A name as a word of a shell. */
function quote(file: string): string {
  return `'${file.replaceAll("'", "'\\''")}'`
}

/**
 * Reads one env file as a layer.
 *
 * @param root the directory in which its path begins
 * @param file its path, which exists
 * @param isShared true for a file that other packages read as well
 */
export function readEnvLayer(root: string, file: string, isShared = false): Layer {
  const path = resolve(root, file)
  try {
    const stats = statSync(path)
    if (stats.isDirectory()) return reportUnreadable(file, problem('file-is-directory', { file }, { file }))
    if (!stats.isFile()) return reportUnreadable(file, problem('file-not-regular', { file }, { file }))
    if (stats.size > LARGEST_FILE) {
      return reportUnreadable(file, problem('file-too-large', { size: stats.size }, { file }))
    }
    return documentLayer(file, readDocument(path, file), isShared)
  } catch (error) {
    return reportUnreadable(file, readProblem(path, file, error as NodeJS.ErrnoException))
  }
}

/** Text is read as text, which is quickest; what does not look like text is read again as bytes, to say why. */
function readDocument(path: string, file: string): ParsedEnvFile {
  const text = readFileSync(path, 'utf8')
  return /[\0\ufffd]/.test(text) ? ParsedEnvFile.readBytes(readFileSync(path), file) : ParsedEnvFile.read(text, file)
}

function reportUnreadable(file: string, why: Problem): Layer {
  return emptyLayer(file, file, [why])
}

function readProblem(path: string, file: string, error: NodeJS.ErrnoException): Problem {
  // The name stands in its directory, so what does not exist is what it points to.
  if (error.code === 'ENOENT' && !existsSync(path)) return problem('file-link-broken', { file }, { file })
  return explainRefusal(error, file)
}
