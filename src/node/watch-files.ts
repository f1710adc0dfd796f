import { fs, path } from './builtin.ts'

/** Editors write a file in several steps; what comes within so many milliseconds is one change. */
const QUIET = 60

/** Ends the watching. */
export type StopWatching = () => void

/**
 * Watches files, whether they are there or not. Folders are watched rather than files: a file that is replaced as a whole is
 * another one afterwards.
 *
 * @param files whole paths
 * @param folders folders in which every file counts; whole paths
 * @param changed is called once for changes that come together
 */
export function watchFiles(files: readonly string[], folders: readonly string[], changed: () => void): StopWatching {
  let timer: NodeJS.Timeout | undefined
  const soon = (): void => {
    clearTimeout(timer)
    timer = setTimeout(changed, QUIET)
  }
  const names = new Map<string, Set<string>>()
  for (const file of files) {
    const folder = path.dirname(file)
    names.set(folder, (names.get(folder) ?? new Set()).add(path.basename(file)))
  }
  const watchers = [...names]
    .filter(([folder]) => fs.existsSync(folder))
    .map(([folder, own]) => fs.watch(folder, (_, file) => (file === null || own.has(file)) && soon()))
  for (const folder of folders) if (fs.existsSync(folder)) watchers.push(fs.watch(folder, soon))
  // What is being watched may go away; whoever watches keeps what it had.
  for (const each of watchers) each.on('error', () => {})
  return () => {
    clearTimeout(timer)
    for (const each of watchers) each.close()
  }
}
