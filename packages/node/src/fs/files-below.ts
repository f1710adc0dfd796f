import { fs, path } from './builtin.ts'
import { readStats } from './regular-file.ts'

/**
 * Every file below a directory, by its absolute path; of a file, itself. Links are not followed: one may lead out of the directory, or
 * round in a circle.
 *
 * @param start the absolute path of a directory or a file
 */
export function* walkFiles(start: string): Generator<string> {
  if (!readStats(start)?.isDirectory()) {
    yield start
    return
  }
  for (const entry of fs.readdirSync(start, { withFileTypes: true })) {
    const inner = path.join(start, entry.name)
    if (entry.isDirectory()) yield* walkFiles(inner)
    else if (entry.isFile()) yield inner
  }
}
