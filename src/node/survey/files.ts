import { fs, path } from '../builtin.ts'
import { git } from '../git/git.ts'
import { isRegularFile, statsOf } from '../regular-file.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** Options of {@link sourceFiles}. */
export interface FileOptions {
  /** True to look also into what ignore rules leave out. */
  readonly ignored?: boolean
}

/**
 * Lists the files below some paths, as the ignore rules of git leave them; where there is no repository, the rules of
 * `.gitignore` files are read here.
 *
 * @param root the folder of the project
 * @param starts whole paths of files and folders; a file that is named is listed whatever the rules say
 * @returns whole paths
 */
export function sourceFiles(root: string, starts: readonly string[], { ignored = false }: FileOptions = {}): string[] {
  const found = new Set<string>()
  for (const start of starts) {
    const stats = statsOf(start)
    if (stats?.isFile()) found.add(start)
    else if (stats?.isDirectory()) for (const file of below(start, ignored)) found.add(file)
  }
  const own = `${path.join(root, '.git')}${path.sep}`
  return [...found].filter((file) => !file.startsWith(own))
}

function below(folder: string, ignored: boolean): Iterable<string> {
  if (!ignored) {
    // Outside of a repository git refuses.
    const answer = git(folder, ['ls-files', '-z', '--cached', '--others', '--exclude-standard', '--deduplicate', '.'])
    if (answer?.status === 0)
      return answer.stdout
        .split('\0')
        .filter((file) => file !== '')
        .map((file) => `${folder}${path.sep}${path.sep === '/' ? file : path.normalize(file)}`)
  }
  return walk(folder, ignored ? null : [])
}

type Rules = { folder: string; ignores: (path: string) => boolean }[]

function* walk(folder: string, rules: Rules | null): Generator<string> {
  let entries: import('node:fs').Dirent[]
  try {
    entries = fs.readdirSync(folder, { withFileTypes: true })
  } catch {
    return
  }
  const here = rules === null ? null : rules.concat(rulesIn(folder))
  for (const entry of entries) {
    if (entry.name === '.git' || (rules !== null && entry.name === 'node_modules')) continue
    const file = path.join(folder, entry.name)
    const asRule = entry.isDirectory() ? `${entry.name}/` : entry.name
    if (
      here?.some((each) =>
        each.ignores(path.posix.join(path.relative(each.folder, folder).replaceAll('\\', '/'), asRule)),
      )
    )
      continue
    if (entry.isDirectory()) yield* walk(file, here)
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
