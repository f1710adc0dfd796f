import { fs, path } from './builtin.ts'

/** Editors write a file in several steps; what comes within so many milliseconds is one change. */
const DEBOUNCE_MS = 60
/** However busy the files are, a change is told after so many milliseconds. */
const MAX_DELAY_MS = 400
/** A file that was there and is gone, or is empty now, is probably being replaced; it is waited for so many milliseconds. */
const GRACE_MS = 500
/** So often the files are checked, since a system may tell of nothing: it has watches of its own to give away, and not all. */
const POLL_MS = 250

/** Ends the watching. */
export type StopWatching = () => void

/**
 * Watches files, whether they are there or not, by what they are: path, links on the way, and the file at its end. That finds every
 * way of changing one, also where a directory on the way is replaced or a link is switched, as orchestrators do it.
 *
 * Watches of the system make it quick where there are any; nothing depends on them. Who watches the same files shares one look at them.
 *
 * @param files absolute paths
 * @param directories directories in which every file counts; absolute paths
 * @param changed is called once for changes that come together
 */
export function watchFiles(
  files: readonly string[],
  directories: readonly string[],
  changed: () => void,
): StopWatching {
  const key = JSON.stringify([files, directories])
  const group = watched.get(key) ?? startGroup(key, files, directories)
  const listener = () => changed()
  group.listeners.add(listener)
  return () => {
    if (!group.listeners.delete(listener) || group.listeners.size > 0) return
    watched.delete(key)
    group.stop()
  }
}

/** Everybody who watches the same files. */
interface WatchGroup {
  readonly listeners: Set<() => void>
  readonly stop: StopWatching
}

const watched = new Map<string, WatchGroup>()

function startGroup(key: string, files: readonly string[], directories: readonly string[]): WatchGroup {
  const listeners = new Set<() => void>()
  const stop = lookForChanges(files, directories, () => {
    for (const each of [...listeners]) each()
  })
  const group = { listeners, stop }
  watched.set(key, group)
  return group
}

function lookForChanges(files: readonly string[], directories: readonly string[], changed: () => void): StopWatching {
  let seen = takeSnapshot(files, directories)
  /** What `changed` was last called for. */
  let told = seen
  let firstChange = 0
  let lastChange = 0
  let watches = new Map<string, import('node:fs').FSWatcher>()

  const look = (): void => {
    const now = takeSnapshot(files, directories)
    const time = Date.now()
    if (!isSame(now, seen)) {
      lastChange = time
      if (firstChange === 0) firstChange = time
      seen = now
      watches = rewatch(watches, files, directories, look)
    }
    if (firstChange === 0) return
    if (isSame(seen, told)) {
      firstChange = 0
      return
    }
    const isQuiet = time - lastChange >= DEBOUNCE_MS || time - firstChange >= MAX_DELAY_MS
    if (!isQuiet || (isBeingReplaced(told, seen) && time - firstChange < GRACE_MS)) {
      defer()
      return
    }
    firstChange = 0
    told = seen
    changed()
  }
  let timer: NodeJS.Timeout | undefined
  const defer = (): void => {
    timer ??= setTimeout(() => {
      timer = undefined
      look()
    }, DEBOUNCE_MS)
  }
  watches = rewatch(watches, files, directories, look)
  const poll = setInterval(look, POLL_MS)
  return () => {
    clearInterval(poll)
    clearTimeout(timer)
    for (const each of watches.values()) each.close()
    watches.clear()
  }
}

/** What is there, by path: where it really lies and which version it is; an empty text for nothing, `0` for an empty file. */
type Seen = ReadonlyMap<string, string>

function takeSnapshot(files: readonly string[], directories: readonly string[]): Seen {
  const inside = directories.flatMap((directory) => {
    try {
      return fs.readdirSync(directory).map((file) => path.join(directory, file))
    } catch {
      return []
    }
  })
  return new Map([...files, ...directories, ...inside].map((file) => [file, toVersion(file, directories)]))
}

function toVersion(file: string, directories: readonly string[]): string {
  try {
    const real = fs.realpathSync(file)
    // The times of a directory say what is in it, which is checked by itself.
    if (directories.includes(file)) return real
    const { dev, ino, size, mtimeNs, ctimeNs } = fs.statSync(real, { bigint: true })
    return size === 0n ? `0 ${real} ${dev} ${ino}` : `${real} ${dev} ${ino} ${size} ${mtimeNs} ${ctimeNs}`
  } catch {
    return ''
  }
}

function isSame(a: Seen, b: Seen): boolean {
  return a.size === b.size && [...a].every(([file, version]) => b.get(file) === version)
}

function isBeingReplaced(before: Seen, now: Seen): boolean {
  return [...before].some(([file, version]) => {
    const next = now.get(file) ?? ''
    return version !== '' && !version.startsWith('0 ') && (next === '' || next.startsWith('0 '))
  })
}

/** Watches every directory that a change can come from: those of the files, of what links lead to, and those above. */
function rewatch(
  old: Map<string, import('node:fs').FSWatcher>,
  files: readonly string[],
  directories: readonly string[],
  changed: () => void,
): Map<string, import('node:fs').FSWatcher> {
  const wanted = new Set<string>()
  for (const file of [...files, ...directories]) {
    wanted.add(path.dirname(file))
    try {
      wanted.add(path.dirname(fs.realpathSync(file)))
    } catch {}
  }
  for (const directory of directories) wanted.add(directory)
  for (const each of old.values()) each.close()
  const watches = new Map<string, import('node:fs').FSWatcher>()
  for (const directory of wanted) {
    try {
      const watch = fs.watch(directory, () => changed())
      watch.on('error', () => {})
      watches.set(directory, watch)
    } catch {
      // Not there, or no watches left: the files are checked all the same.
    }
  }
  return watches
}
