import { statSync } from 'node:fs'
import { join } from 'node:path'
import { isInside } from '@mappa/node/fs/places'

/**
 * Where frameworks put pages that they render when their build has ended, relative to the project. All of them are published; server code
 * lies elsewhere.
 */
const PUBLISHED: readonly string[] = [
  '.svelte-kit/output/prerendered',
  'build/client',
  'build/prerendered',
  'dist/client',
  '.output/public',
  '.vercel/output/static',
]

/** When this process began, in milliseconds since 1970. Clocks of disks are a little coarser. */
const START = performance.timeOrigin - 1000

/**
 * The directories of pages that this process has written beside those that a bundler wrote.
 *
 * @param roots the directories of a project
 * @param written those that a bundler wrote, absolute paths
 */
export function listPageDirectories(roots: readonly string[], written: readonly string[]): string[] {
  const all = new Set(roots.flatMap((root) => PUBLISHED.map((each) => join(root, each))))
  return [...all].filter((each) => isNew(each) && !written.some((one) => isInside(each, one)))
}

function isNew(directory: string): boolean {
  const stats = statSync(directory, { throwIfNoEntry: false })
  return stats?.isDirectory() === true && stats.mtimeMs >= START
}
