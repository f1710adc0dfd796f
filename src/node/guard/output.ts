import { guardProblem } from '../../core/problems/of-commands.ts'
import type { Problem } from '../../core/problems/problem.ts'
import { fs, path } from '../builtin.ts'
import { filesBelow } from '../files-below.ts'
import { hitsInFile, type Needle } from './needles.ts'

const { brotliDecompressSync, gunzipSync } = process.getBuiltinModule('node:zlib')

/** Larger files are not read, in bytes: 256 MiB. */
const LARGEST = 256 * 1024 * 1024

/** What was searched. */
export interface Searched {
  readonly files: number
  /** What could not be searched, and why, in words. */
  readonly passedOver: readonly string[]
}

/**
 * Looks for secrets in files and folders, such as built output; also within compressed files.
 *
 * @param root the folder of the project, to which paths are shown
 * @param paths whole paths
 * @param own files in which the secrets are at home, by their whole paths
 * @param problems gets every secret that was found, and every path that does not exist
 */
export async function searchOutput(
  root: string,
  paths: readonly string[],
  needles: readonly Needle[],
  own: ReadonlySet<string>,
  problems: Problem[],
): Promise<Searched> {
  let files = 0
  const passedOver: string[] = []
  for (const start of paths) {
    for (const file of filesBelow(start)) {
      if (own.has(file)) continue
      const inner = path.relative(root, file)
      const shown = inner === '' || inner.startsWith('..') ? file : inner
      const bytes = read(file)
      if (bytes === null) {
        if (file === start) problems.push(guardProblem('path-missing', { file: shown }, { file: shown }))
        else passedOver.push(`${shown} (can't be read)`)
        continue
      }
      if (bytes === 'too large') {
        passedOver.push(`${shown} (more than 256 MiB)`)
        continue
      }
      files++
      const layers = await unpacked(file, bytes)
      if (layers === null) passedOver.push(`what is packed in ${shown}`)
      const told = new Set<string>()
      for (const piece of [bytes, ...(layers ?? [])]) {
        for (const { name, setting, encoding } of hitsInFile(piece, needles)) {
          if (told.has(name)) continue
          told.add(name)
          const packed = piece === bytes ? '' : ', compressed'
          const details = { name, file: shown, encoding: `${encoding}${packed}` }
          problems.push(guardProblem('secret-in-output', details, { file: shown, name, setting }))
        }
      }
    }
  }
  return { files, passedOver }
}

function read(file: string): Buffer | 'too large' | null {
  try {
    const { size } = fs.statSync(file)
    return size > LARGEST ? 'too large' : fs.readFileSync(file)
  } catch {
    return null
  }
}

/** What a compressed file holds: gzip, Brotli or zip; `null` where it can't be unpacked. */
async function unpacked(file: string, bytes: Buffer): Promise<Buffer[] | null> {
  const options = { maxOutputLength: LARGEST }
  try {
    if (bytes[0] === 0x1f && bytes[1] === 0x8b) return [gunzipSync(bytes, options)]
    if (file.endsWith('.br')) return [brotliDecompressSync(bytes, options)]
    if (bytes.subarray(0, 4).equals(Buffer.from('PK\x03\x04', 'latin1'))) {
      const { unzipSync } = await import('fflate')
      return Object.values(unzipSync(bytes)).map((each) => Buffer.from(each.buffer, each.byteOffset, each.byteLength))
    }
    return []
  } catch {
    return null
  }
}
