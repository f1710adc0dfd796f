import { fs, path } from './builtin.ts'
import { statsOf } from './regular-file.ts'

/**
 * Every file below a folder, by its whole path; of a file, itself. Links are not followed: one may lead out of the folder, or
 * round in a circle.
 *
 * @param start the whole path of a folder or a file
 */
export function* filesBelow(start: string): Generator<string> {
  if (!statsOf(start)?.isDirectory()) {
    yield start
    return
  }
  for (const entry of fs.readdirSync(start, { withFileTypes: true })) {
    const inner = path.join(start, entry.name)
    if (entry.isDirectory()) yield* filesBelow(inner)
    else if (entry.isFile()) yield inner
  }
}
