import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { fs } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { type Finding, listValues } from '../survey/findings.ts'
import { obstacleText } from './obstacles.ts'
import type { MovePlace } from './source-changes.ts'
import { findSpelled } from './spelled.ts'

/** Larger files are not searched, in bytes: 16 MiB. */
const MAX_FILE_BYTES = 16 * 1024 * 1024

/**
 * Finds where secrets stand that move, and will stand afterwards, whatever the file is: in comments, documents, data, and in
 * languages that are not changed.
 *
 * @param files every file of the project that ignore rules do not leave out, by absolute paths
 * @param known the places that were checked already
 */
export function remainingPlaces(
  root: string,
  files: readonly string[],
  secrets: readonly Finding[],
  known: readonly MovePlace[],
): readonly MovePlace[] {
  const found: MovePlace[] = []
  for (const whole of files) {
    const file = toRelativePath(root, whole)
    // Where secrets are at home.
    if (isLocalFile(file)) continue
    const text = secrets.length === 0 ? null : read(whole)
    if (text === null) continue
    const own = known.filter((each) => each.file === file)
    for (const finding of secrets) found.push(...listPlaces(finding, file, text, own))
  }
  return found
}

/** The places in a file at which a secret stands, and which were not checked already. */
function listPlaces(finding: Finding, file: string, text: string, known: readonly MovePlace[]): MovePlace[] {
  return listValues(finding)
    .flatMap((value) => [...findSpelled(text, value)])
    .filter(({ start }) => !known.some((each) => each.start <= start && start < each.end))
    .map(({ start, end }) => {
      const obstacle = obstacleText('elsewhere')
      return { finding, file, ...findPlace(text, start), start, end, obstacle }
    })
}

function findPlace(text: string, at: number): { line: number; column: number } {
  const before = text.slice(0, at)
  return { line: before.split('\n').length, column: at - before.lastIndexOf('\n') }
}

function read(whole: string): string | null {
  try {
    return fs.statSync(whole).size > MAX_FILE_BYTES ? null : fs.readFileSync(whole, 'utf8')
  } catch {
    return null
  }
}
