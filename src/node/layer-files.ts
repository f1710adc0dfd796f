import { LARGEST_FILE } from '../core/envfile/decode.ts'
import { EnvReading } from '../core/envfile/reading.ts'
import type { Layer } from '../core/layers/layer.ts'
import { layerFiles } from '../core/layers/order.ts'
import { documentLayer, emptyLayer } from '../core/layers/sources.ts'
import { type Problem, problem } from '../core/problems/problem.ts'
import { fs, path } from './builtin.ts'
import { nearFiles } from './near-files.ts'
import { refusedBySystem } from './regular-file.ts'

const { existsSync, readdirSync, readFileSync, statSync } = fs
const { join } = path

/** The layer files of a stage, read, and what was found beside them. */
export interface LayerFiles {
  /** Four layers, lowest first. */
  readonly layers: readonly Layer[]
  /** Files beside them whose names are probably mistaken; and a directory that can't be listed. */
  readonly problems: readonly Problem[]
}

/**
 * Reads the layer files of a stage. A file that is not there is an absent layer; one that can't be read is a
 * problem.
 *
 * @param root the directory of the project
 * @param stage a stage of the definition
 * @param stages all stages of the definition
 */
export function readLayerFiles(root: string, stage: string, stages: readonly string[]): LayerFiles {
  let present: string[]
  try {
    present = readdirSync(root).filter((name) => /env/i.test(name))
  } catch (error) {
    const layers = layerFiles(stage).map((file) => emptyLayer(file, file, []))
    const denied = (error as NodeJS.ErrnoException).code === 'ERR_ACCESS_DENIED'
    return { layers, problems: [problem(denied ? 'root-denied' : 'root-missing', { root })] }
  }
  const layers = layerFiles(stage).map((file) =>
    present.includes(file) ? readLayer(root, file) : emptyLayer(file, file, []),
  )
  const problems = nearFiles(present, stage, stages).map(({ file, meant }) =>
    problem('file-name-near', { file, meant, quoted: /^[\w.-]+$/.test(file) ? file : quote(file) }, { file }),
  )
  return { layers, problems }
}

/** A name as a word of a shell. */
function quote(file: string): string {
  return `'${file.replaceAll("'", "'\\''")}'`
}

function readLayer(root: string, file: string): Layer {
  const path = join(root, file)
  try {
    const stats = statSync(path)
    if (stats.isDirectory()) return unreadable(file, problem('file-is-directory', { file }, { file }))
    if (!stats.isFile()) return unreadable(file, problem('file-not-regular', { file }, { file }))
    if (stats.size > LARGEST_FILE) {
      return unreadable(file, problem('file-too-large', { size: stats.size }, { file }))
    }
    return documentLayer(file, readDocument(path, file))
  } catch (error) {
    return unreadable(file, readProblem(path, file, error as NodeJS.ErrnoException))
  }
}

/** Text is read as text, which is quickest; what does not look like text is read again as bytes, to say why. */
function readDocument(path: string, file: string): EnvReading {
  const text = readFileSync(path, 'utf8')
  return /[\0\ufffd]/.test(text) ? EnvReading.readBytes(readFileSync(path), file) : EnvReading.read(text, file)
}

function unreadable(file: string, why: Problem): Layer {
  return emptyLayer(file, file, [why])
}

function readProblem(path: string, file: string, error: NodeJS.ErrnoException): Problem {
  // The name stands in its directory, so what does not exist is what it points to.
  if (error.code === 'ENOENT' && !existsSync(path)) return problem('file-link-broken', { file }, { file })
  return refusedBySystem(error, file)
}
