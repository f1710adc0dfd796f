import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { toRelativePath } from '@mappa/node/fs/places'
import { readLimited, type Skipped } from '@mappa/node/fs/read-file'
import { type Finding, listValues } from '../survey/findings.ts'
import { makeObstacle } from './obstacles.ts'
import type { MovePlace } from './source-changes.ts'
import { findSpelled } from './spelled.ts'

/** Larger files are not searched, in bytes: 16 MiB. */
export const MAX_FILE_BYTES = 16 * 1024 * 1024

/** Where secrets still stand after what moves has moved, as far as files were read. */
export interface Remaining {
  readonly places: readonly MovePlace[]
  readonly skipped: readonly Skipped[]
}

/**
 * Finds where secrets stand that move, and will stand afterwards, whatever the file is: in comments, documents, data, and in
 * languages that are not changed.
 *
 * @param files every file of the project that ignore rules do not leave out, by absolute paths
 * @param known the places that were checked already
 */
export function findRemainingPlaces(
  root: string,
  files: readonly string[],
  secrets: readonly Finding[],
  known: readonly MovePlace[],
): Remaining {
  const places: MovePlace[] = []
  const skipped: Skipped[] = []
  for (const whole of files) {
    const file = toRelativePath(root, whole)
    // Where secrets are at home.
    if (isLocalFile(file) || secrets.length === 0) continue
    const read = readLimited(whole, MAX_FILE_BYTES)
    if (read.skipped !== null) {
      skipped.push({ file, why: read.skipped })
      continue
    }
    const text = read.bytes.toString('utf8')
    const own = known.filter((each) => each.file === file)
    for (const finding of secrets) places.push(...listPlaces(finding, file, text, own))
  }
  return { places, skipped }
}

/** The places in a file at which a secret stands, and which were not checked already. */
function listPlaces(finding: Finding, file: string, text: string, known: readonly MovePlace[]): MovePlace[] {
  return listValues(finding)
    .flatMap((value) => [...findSpelled(text, value)])
    .filter(({ start }) => !known.some((each) => each.start <= start && start < each.end))
    .map(({ start, end }) => {
      const obstacle = makeObstacle('elsewhere')
      return { finding, file, ...findPlace(text, start), start, end, obstacle }
    })
}

function findPlace(text: string, at: number): { line: number; column: number } {
  const before = text.slice(0, at)
  return { line: before.split('\n').length, column: at - before.lastIndexOf('\n') }
}
