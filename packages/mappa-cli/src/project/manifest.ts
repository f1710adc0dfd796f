import { fs, path } from '@mappa/node/fs/builtin'
import { isRegularFile } from '@mappa/node/fs/regular-file'

/** What a `package.json` says, as far as this project asks. */
export interface Manifest {
  readonly name?: string
  readonly type?: string
  /** The packages of a repository, as npm and Yarn declare them. */
  readonly workspaces?: unknown
  readonly dependencies?: Readonly<Record<string, string>>
  readonly devDependencies?: Readonly<Record<string, string>>
}

/** The `package.json` of a directory; empty where there is none, or a wrong one, which is npm's to complain about. */
export function readManifest(directory: string): Manifest {
  try {
    if (!isRegularFile(path.join(directory, 'package.json'))) return {}
    return (JSON.parse(fs.readFileSync(path.join(directory, 'package.json'), 'utf8')) as Manifest | null) ?? {}
  } catch {
    return {}
  }
}

/** The packages that a project depends on, also while it is developed. */
export function listPackages(root: string): Readonly<Record<string, string>> {
  const { dependencies, devDependencies } = readManifest(root)
  return { ...dependencies, ...devDependencies }
}
