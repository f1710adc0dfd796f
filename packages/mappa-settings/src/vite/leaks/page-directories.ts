import { existsSync } from 'node:fs'
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
]

/**
 * The directories of pages beside those that a bundler wrote, whoever wrote them and when.
 *
 * @param roots the directories of a project
 * @param written those that a bundler wrote, absolute paths
 */
export function listPageDirectories(roots: readonly string[], written: readonly string[]): string[] {
  const all = new Set(roots.flatMap((root) => PUBLISHED.map((each) => join(root, each))))
  return [...all].filter((each) => existsSync(each) && !written.some((one) => isInside(each, one)))
}
