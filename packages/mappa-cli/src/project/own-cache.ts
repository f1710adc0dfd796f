import { fs, path } from '@mappa/node/fs/builtin'

/**
 * Where Mappa keeps what takes time to make, in the `node_modules` of a project; `null` where there is none to keep it in. In a
 * workspace, whose packages lie further up, the project gets one of its own.
 *
 * @param root the directory of the project
 */
export function cacheDirectory(root: string): string | null {
  for (let directory = root; ; directory = path.dirname(directory)) {
    if (fs.existsSync(path.join(directory, 'node_modules'))) return path.join(root, 'node_modules/.cache/mappa')
    if (directory === path.dirname(directory)) return null
  }
}

/**
 * A file of the cache: in the `node_modules` of the project where there is one, else in the user's directory for such things (XDG).
 *
 * @param root the directory of the project
 * @param name what it keeps
 */
export function cacheFile(root: string, name: string): string {
  const modules = path.join(root, 'node_modules')
  if (fs.existsSync(modules)) return path.join(modules, '.cache/mappa', `${name}.json`)
  const { createHash } = process.getBuiltinModule('node:crypto')
  const { homedir } = process.getBuiltinModule('node:os')
  const directory = process.env.XDG_CACHE_HOME || path.join(homedir(), '.cache')
  const digest = createHash('sha256').update(root).digest('hex').slice(0, 24)
  return path.join(directory, 'mappa', `${name}-${digest}.json`)
}

/**
 * Reads a file of the cache, if nobody but this user can have written it. What it holds is executed or believed, so anything else is
 * made again.
 *
 * @returns its text; `null` where there is none that can be trusted
 */
export function readOwn(file: string): string | null {
  try {
    const directory = fs.lstatSync(path.dirname(file))
    const stats = fs.lstatSync(file)
    if (!directory.isDirectory() || !stats.isFile() || stats.nlink !== 1) return null
    return isOwn(directory) && isOwn(stats) ? fs.readFileSync(file, 'utf8') : null
  } catch {
    return null
  }
}

/** True for what belongs to this user and nobody else can write. Windows has no such bits; there the directory's rights count. */
function isOwn({ uid, mode }: { uid: number; mode: number }): boolean {
  return process.getuid === undefined || (uid === process.getuid() && (mode & 0o022) === 0)
}

/** Keeps a text for the next time. A directory that can't be written to is no error: all is made again then. */
export function writeOwn(file: string, text: string): void {
  const directory = path.dirname(file)
  const { randomBytes } = process.getBuiltinModule('node:crypto')
  try {
    fs.mkdirSync(directory, { recursive: true, mode: 0o700 })
    if (!isOwn(fs.lstatSync(directory))) fs.chmodSync(directory, 0o700)
    const draft = `${file}.${randomBytes(8).toString('hex')}`
    fs.writeFileSync(draft, text, { mode: 0o600, flag: 'wx' })
    fs.renameSync(draft, file)
  } catch {}
}
