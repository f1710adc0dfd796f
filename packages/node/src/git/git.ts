import type { ChildProcess } from 'node:child_process'
import { path } from '../fs/builtin.ts'
import { findEnclosingRepository } from '../fs/places.ts'
import { findProgram } from './programs.ts'

const { spawn, spawnSync } = process.getBuiltinModule('node:child_process')

/** What git answered. */
export interface GitAnswer {
  readonly status: number
  readonly stdout: string
  /** What it warned of, in English. */
  readonly stderr: string
}

/**
 * A repository can be anybody's, and its configuration can name commands that git would run: a file monitor, hooks, a pager, a
 * signature check, and ways to fetch what a partial clone lacks. None of them is run, and no repository that only lies in another as a
 * directory of files is taken for one. Filters and conversions are run only by commands that read the working tree as git would store
 * it, such as `git status`: none of those is used.
 */
const NO_COMMANDS = [
  'core.fsmonitor=false',
  'diff.relative=false',
  'core.hooksPath=/dev/null',
  'core.pager=cat',
  'log.showSignature=false',
  'protocol.allow=never',
  'safe.bareRepository=explicit',
].flatMap((each) => ['-c', each])

/**
 * Asks the git that is installed. This is the only place that starts it.
 *
 * @param directory where to ask, an absolute path
 * @param words the words behind `git`
 * @param input what it reads from standard input
 * @returns its answer; `null` where there is no git
 */
export function git(directory: string, words: readonly string[], input?: string): GitAnswer | null {
  return ask(directory, [...NO_COMMANDS, ...words], input)
}

/** The same with the configuration as it is, for questions about the configuration itself, which run nothing. */
export function gitAsConfigured(directory: string, words: readonly string[]): GitAnswer | null {
  return ask(directory, words)
}

/**
 * Starts git, to hand it questions and take its answers one by one.
 *
 * @returns the process, with pipes for standard input and output; `null` where there is no git
 */
export function startGit(directory: string, words: readonly string[]): ChildProcess | null {
  const program = findProgram('git', directory)
  if (program === null) return null
  const all = [...within(directory), ...NO_COMMANDS, ...words]
  return spawn(program, all, { stdio: ['pipe', 'pipe', 'ignore'], env: environment() })
}

/** Asks git while other work goes on. */
export async function askGit(directory: string, words: readonly string[]): Promise<GitAnswer | null> {
  const child = startGit(directory, words)
  if (child === null) return null
  const pieces: Buffer[] = []
  child.stdout!.on('data', (piece: Buffer) => pieces.push(piece))
  child.stdin!.end()
  return new Promise((resolve) => {
    child.on('error', () => resolve(null))
    child.on('close', (status) =>
      resolve(status === null ? null : { status, stdout: Buffer.concat(pieces).toString(), stderr: '' }),
    )
  })
}

function ask(directory: string, words: readonly string[], input?: string): GitAnswer | null {
  const program = findProgram('git', directory)
  if (program === null) return null
  const { status, stdout, stderr, error } = spawnSync(program, [...within(directory), ...words], {
    encoding: 'utf8',
    maxBuffer: 1 << 30,
    env: environment(),
    ...(input === undefined ? {} : { input }),
  })
  return error !== undefined || status === null ? null : { status, stdout, stderr }
}

/**
 * Where git works. The configuration of a repository may name any directory as its working tree (`core.worktree`), and all of it would
 * be read: the working tree is the directory in which the repository was found, unless the user says otherwise.
 */
function within(directory: string): readonly string[] {
  const isNamed = process.env.GIT_DIR !== undefined || process.env.GIT_WORK_TREE !== undefined
  const tree = isNamed ? null : findEnclosingRepository(path.resolve(directory))
  return ['-C', directory, ...(tree === null ? [] : [`--work-tree=${tree}`])]
}

/**
 * Messages are not for us to read, so their language does not matter; a prompt would wait for ever. No protocol is allowed, whatever
 * the configuration says of single ones, so nothing can be fetched.
 */
function environment(): NodeJS.ProcessEnv {
  return {
    ...process.env,
    GIT_TERMINAL_PROMPT: '0',
    GIT_OPTIONAL_LOCKS: '0',
    GIT_NO_LAZY_FETCH: '1',
    GIT_ALLOW_PROTOCOL: 'none',
    // What it warns of is read.
    LC_ALL: 'C',
  }
}

/** The top directory of the repository that a directory lies in; `null` where there is none, or no git. */
export function findRepository(directory: string): string | null {
  const answer = git(directory, ['rev-parse', '--show-toplevel'])
  return answer?.status === 0 ? answer.stdout.replace(/\r?\n$/, '') : null
}

/** Those of some files that git ignores; a file that it tracks is never among them. */
export function listIgnored(directory: string, files: readonly string[]): ReadonlySet<string> {
  const answer = git(directory, ['check-ignore', '-z', '--stdin'], files.join('\0'))
  return new Set(answer?.stdout.split('\0').filter((file) => file !== ''))
}

/**
 * Those of some files that git ignores for everybody who has the repository: by rules that are part of it, and not by those of this
 * clone or of this user alone.
 */
export function listIgnoredForAll(directory: string, files: readonly string[]): ReadonlySet<string> {
  const answer = git(directory, ['check-ignore', '-v', '-z', '--stdin'], files.join('\0'))
  const words = answer?.stdout.split('\0') ?? []
  const found = new Set<string>()
  // For each file: where the rule stands, its line, the rule, the file.
  for (let at = 0; at + 3 < words.length; at += 4) {
    const [source, , rule, file] = words.slice(at, at + 4) as [string, string, string, string]
    if (/(^|\/)\.gitignore$/.test(source) && !path.isAbsolute(source) && !rule.startsWith('!')) found.add(file)
  }
  return found
}

/** The file with the rules of this clone alone. */
export function listOwnExcludes(directory: string): string | null {
  const answer = git(directory, ['rev-parse', '--git-path', 'info/exclude'])
  return answer?.status === 0 ? path.resolve(directory, answer.stdout.replace(/\r?\n$/, '')) : null
}

/** Those of some files that git tracks. */
export function listTracked(directory: string, files: readonly string[]): ReadonlySet<string> {
  const answer = git(directory, ['ls-files', '-z', '--', ...files.map((file) => `:(literal)${file}`)])
  return new Set(answer?.stdout.split('\0').filter((file) => file !== ''))
}

/**
 * The bytes of a file as the last commit has it, without any conversion.
 *
 * @param file its path, relative to the directory, with `/` between directories
 * @returns `null` where the commit does not have it
 */
export function readCommitted(directory: string, file: string): string | null {
  const answer = git(directory, ['cat-file', 'blob', `HEAD:./${file}`])
  return answer?.status === 0 ? answer.stdout : null
}
