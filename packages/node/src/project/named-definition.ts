import { fs, path } from '../fs/builtin.ts'

/**
 * The path that a `package.json` has under `"mappa": { "settings": ... }`; a `package.json` that is wrong is npm's to complain about.
 *
 * @param directory where it lies
 * @returns the path as it is written; `null` if it names none
 */
export function readNamedDefinition(directory: string): string | null {
  try {
    const data: unknown = JSON.parse(fs.readFileSync(path.join(directory, 'package.json'), 'utf8'))
    const settings = (data as { mappa?: { settings?: unknown } } | null)?.mappa?.settings
    return typeof settings === 'string' && settings !== '' ? settings : null
  } catch {
    return null
  }
}
