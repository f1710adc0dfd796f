import { describeSkip } from '@mappa/core/problems/skip-reasons'
import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { isRegularFile, readStats } from '@mappa/node/fs/regular-file'
import { type ListedFile, listFiles } from '@mappa/node/git/list-files'
import { exclusionKind } from './not-ours.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** Options of {@link listSourceFiles}. */
export interface FileOptions {
  /** True to also scan what ignore rules exclude. */
  readonly ignored?: boolean
}

/** The files of a project, and the directories that were left out though no rule says so. */
export interface SourceFiles {
  /** Absolute paths. */
  readonly files: readonly string[]
  readonly left: readonly { readonly directory: string; readonly why: string }[]
}

/**
 * Lists the files below some paths, as the ignore rules of git leave them; where there is no repository, the rules of
 * `.gitignore` files are read here. Dependencies, build output and version control are left out, ignored or not: nothing in them
 * is for this project to change.
 *
 * @param root the directory of the project
 * @param starts absolute paths of files and directories; a file that is named is listed whatever the rules say
 */
export function listSourceFiles(
  root: string,
  starts: readonly string[],
  { ignored = false }: FileOptions = {},
): SourceFiles {
  const found = new Set<string>()
  const left = new Map<string, string>()
  for (const start of starts) {
    const stats = readStats(start)
    if (stats?.isFile()) found.add(start)
    else if (stats?.isDirectory()) for (const file of below(start, ignored, left)) found.add(file)
  }
  const own = `${path.join(root, '.git')}${path.sep}`
  return {
    files: [...found].filter((file) => !file.startsWith(own)),
    left: [...left].map(([directory, why]) => ({ directory, why })),
  }
}

function below(directory: string, ignored: boolean, left: Map<string, string>): Iterable<string> {
  if (ignored) return walk(directory, null, left)
  const listed = listFiles(directory)
  if (listed === null) return walk(directory, [], left)
  for (const each of listed.skipped) left.set(path.join(directory, each), describeSkip('unreadable'))
  return ours(directory, listed.files, left)
}

/** Leaves out what is not the project's own. What git tracks is no build output, whatever its directory is called. */
function* ours(directory: string, listed: readonly ListedFile[], left: Map<string, string>): Generator<string> {
  const known = new Map<string, ReturnType<typeof exclusionKind>>()
  const getExclusion = (directory: string) => {
    if (!known.has(directory)) known.set(directory, exclusionKind(directory))
    return known.get(directory)!
  }
  for (const { file, tracked } of listed) {
    const other = listDirectories(directory, file).find((each) => {
      const why = getExclusion(each)
      return why !== null && !(why === 'build output' && tracked)
    })
    if (other !== undefined) left.set(other, getExclusion(other)!)
    else yield `${directory}${path.sep}${path.sep === '/' ? file : path.normalize(file)}`
  }
}

/** The directories between a directory and a file below it, outermost first. */
function listDirectories(directory: string, file: string): string[] {
  const parts = file.split('/').slice(0, -1)
  return parts.map((_, index) => [directory, ...parts.slice(0, index + 1)].join(path.sep))
}

type Rules = { directory: string; ignores: (path: string) => boolean }[]

function isIgnored(rules: Rules | null, directory: string, name: string): boolean {
  return (rules ?? []).some((each) => {
    const inner = toRelativePath(each.directory, directory)
    return each.ignores(path.posix.join(inner, name))
  })
}

function* walk(directory: string, rules: Rules | null, left: Map<string, string>): Generator<string> {
  const here = rules === null ? null : rules.concat(findRules(directory))
  for (const entry of listEntries(directory, left)) {
    const file = path.join(directory, entry.name)
    if (!entry.isDirectory()) {
      if (entry.isFile() && !isIgnored(here, directory, entry.name)) yield file
      continue
    }
    const why = exclusionKind(file)
    // Whoever asks for what rules leave out asks for build output as well.
    if (why === 'dependencies' || (why !== null && rules !== null)) noteLeft(file, why, left)
    else if (!isIgnored(here, directory, `${entry.name}/`)) yield* walk(file, here, left)
  }
}

/** Keeps that a directory was left out, unless everybody expects that. */
function noteLeft(directory: string, why: string, left: Map<string, string>): void {
  if (!/^(\.git|node_modules)$/.test(path.basename(directory))) left.set(directory, why)
}

/** What is in a directory. One that can't be read is left out, and said to be. */
function listEntries(directory: string, left: Map<string, string>): readonly import('node:fs').Dirent[] {
  try {
    return fs.readdirSync(directory, { withFileTypes: true })
  } catch {
    left.set(directory, describeSkip('unreadable'))
    return []
  }
}

function findRules(directory: string): Rules {
  const file = path.join(directory, '.gitignore')
  if (!isRegularFile(file)) return []
  const ignore = createRequire(import.meta.url)('ignore') as typeof import('ignore')
  const rules = ignore().add(fs.readFileSync(file, 'utf8'))
  return [{ directory, ignores: (name) => name !== '' && rules.ignores(name) }]
}
