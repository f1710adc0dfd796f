import { fs, path } from '../../../../mappa/src/node/fs/builtin.ts'
import { isRegularFile, statsOf } from '../../../../mappa/src/node/fs/regular-file.ts'
import { git } from '../../project/git/git.ts'
import { notOurs } from './not-ours.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** Options of {@link sourceFiles}. */
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
export function sourceFiles(
  root: string,
  starts: readonly string[],
  { ignored = false }: FileOptions = {},
): SourceFiles {
  const found = new Set<string>()
  const left = new Map<string, string>()
  for (const start of starts) {
    const stats = statsOf(start)
    if (stats?.isFile()) found.add(start)
    else if (stats?.isDirectory()) for (const file of below(start, ignored, left)) found.add(file)
  }
  const own = `${path.join(root, '.git')}${path.sep}`
  return {
    files: [...found].filter((file) => !file.startsWith(own)),
    left: [...left].map(([directory, why]) => ({ directory, why })),
  }
}

function below(folder: string, ignored: boolean, left: Map<string, string>): Iterable<string> {
  if (ignored) return walk(folder, null, left)
  const listed = listedByGit(folder)
  return listed === null ? walk(folder, [], left) : ours(folder, listed, left)
}

interface Listed {
  readonly file: string
  readonly tracked: boolean
}

/** What git tracks or would take along; `null` outside of a repository. */
function listedByGit(folder: string): Listed[] | null {
  const words = ['ls-files', '-z', '-t', '--cached', '--others', '--exclude-standard', '--deduplicate', '.']
  const answer = git(folder, words)
  if (answer?.status !== 0) return null
  return answer.stdout
    .split('\0')
    .filter((line) => line !== '')
    .map((line) => ({ file: line.slice(2), tracked: line[0] !== '?' }))
}

/** Leaves out what is not the project's own. What git tracks is no build output, whatever its directory is called. */
function* ours(folder: string, listed: readonly Listed[], left: Map<string, string>): Generator<string> {
  const known = new Map<string, ReturnType<typeof notOurs>>()
  for (const { file, tracked } of listed) {
    const parts = file.split('/')
    let directory = folder
    let why: ReturnType<typeof notOurs> = null
    for (const part of parts.slice(0, -1)) {
      directory = `${directory}${path.sep}${part}`
      if (!known.has(directory)) known.set(directory, notOurs(directory))
      why = known.get(directory)!
      if (why === 'build output' && tracked) why = null
      if (why !== null) break
    }
    if (why === null) yield `${folder}${path.sep}${path.sep === '/' ? file : path.normalize(file)}`
    else left.set(directory, why)
  }
}

type Rules = { folder: string; ignores: (path: string) => boolean }[]

function* walk(folder: string, rules: Rules | null, left: Map<string, string>): Generator<string> {
  let entries: import('node:fs').Dirent[]
  try {
    entries = fs.readdirSync(folder, { withFileTypes: true })
  } catch {
    return
  }
  const here = rules === null ? null : rules.concat(rulesIn(folder))
  for (const entry of entries) {
    const file = path.join(folder, entry.name)
    const why = entry.isDirectory() ? notOurs(file) : null
    // Whoever asks for what rules leave out asks for build output as well.
    if (why === 'dependencies' || (why !== null && rules !== null)) {
      if (entry.name !== '.git' && entry.name !== 'node_modules') left.set(file, why)
      continue
    }
    const asRule = entry.isDirectory() ? `${entry.name}/` : entry.name
    if (
      here?.some((each) =>
        each.ignores(path.posix.join(path.relative(each.folder, folder).replaceAll('\\', '/'), asRule)),
      )
    )
      continue
    if (entry.isDirectory()) yield* walk(file, here, left)
    else if (entry.isFile()) yield file
  }
}

function rulesIn(folder: string): Rules {
  const file = path.join(folder, '.gitignore')
  if (!isRegularFile(file)) return []
  const ignore = createRequire(import.meta.url)('ignore') as typeof import('ignore')
  const rules = ignore().add(fs.readFileSync(file, 'utf8'))
  return [{ folder, ignores: (name) => name !== '' && rules.ignores(name) }]
}
