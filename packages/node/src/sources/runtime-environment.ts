import { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import { isEnvFile } from '@mappa/core/layers/env-file-name'
import { type Problem, problem } from '@mappa/core/problems/problem'
import type { Template } from '@mappa/core/template/template'
import { fs, path } from '../fs/builtin.ts'
import { getCurrentDirectory } from '../project/root.ts'

/** The variables of the process, without those that the runtime took from env files. */
export interface ProcessEnvironment {
  readonly values: Readonly<Record<string, string | undefined>>
  /** The files that the runtime may have read; empty where it read none. */
  readonly files: readonly string[]
  /** How to turn that off, for a hint; an empty text where it read none. */
  readonly turnOff: string
  /** Names that stand both in such a file and in the environment, whose value may have come from either. */
  readonly unclear: ReadonlySet<string>
}

type Environment = Readonly<Record<string, string | undefined>>

/**
 * The variables that the process was really started with. Some runtimes read env files themselves and put their values into the
 * environment before any program runs: Bun always, unless told not to, and Node with `--env-file`. Those values would lie above
 * all layers, as if somebody had set them explicitly.
 *
 * On Linux the system remembers what a process was started with. Elsewhere, and in programs that such a runtime started, the
 * two can't be told apart, and `unclear` names what may be either.
 *
 * @param environment `process.env`
 */
export function processEnvironment(environment: Environment): ProcessEnvironment {
  const reading = readByRuntime(environment)
  if (reading === null) return chooseEnvironment(environment)
  const { files, turnOff, inherited } = reading
  const initial = inherited ? null : readInitialEnvironment()
  const values: Record<string, string | undefined> = { ...environment }
  const unclear = new Set<string>()
  for (const [name, entries] of findEntries(files)) {
    const value = environment[name]
    if (value === undefined || (initial !== null && initial.get(name) === value)) continue
    const isFromFile = entries.some((each) => fits(each, value))
    if (initial !== null && isFromFile) delete values[name]
    else if (isFromFile || initial !== null) unclear.add(name)
  }
  return { values, files, turnOff, unclear }
}

/** An environment that a program gave itself, which is taken as it is. */
export function chooseEnvironment(values: Environment): ProcessEnvironment {
  return { values, files: [], turnOff: '', unclear: new Set() }
}

/**
 * Refuses values whose origin matters and is not known: the environment has one value, which stands in a file that the runtime
 * read, and the layer files of the stage set a different value.
 *
 * @param names the variables of the definition
 * @param files the layer files of the stage, lowest first, relative to the root
 */
export function findUnclearValues(
  { values, files: readFiles, turnOff, unclear }: ProcessEnvironment,
  names: readonly string[],
  root: string,
  files: readonly string[],
): Problem[] {
  if (unclear.size === 0) return []
  const layers = files.flatMap((file) => document(path.join(root, file)) ?? [])
  return names.flatMap((name) => {
    const value = values[name]
    if (!unclear.has(name) || value === undefined) return []
    const winner = layers.findLast((each) => each.get(name) !== undefined)?.get(name)
    if (winner !== undefined && fits(winner.value, value)) return []
    const file = readFiles.map((each) => path.relative(root, each) || each).join(', ')
    return [problem('environment-from-file', { name, file, off: turnOff }, { layer: 'the process environment', name })]
  })
}

interface RuntimeReading {
  readonly files: readonly string[]
  readonly turnOff: string
  /** True where the environment was handed on by another process, so that the system can't tell the two apart. */
  readonly inherited: boolean
}

/** Which env files the runtime has read, and how to keep it from that; `null` where it reads none. */
function readByRuntime({ npm_config_user_agent: agent = '' }: Environment): RuntimeReading | null {
  const { execArgv, versions } = process
  const named = listFilesNamed(execArgv)
  if (versions.bun !== undefined) {
    if (execArgv.includes('--no-env-file')) return null
    const files = named.length > 0 ? named : findEnvFiles(getCurrentDirectory())
    return { files, turnOff: 'start Bun with --no-env-file', inherited: false }
  }
  if (named.length > 0) return { files: named, turnOff: 'leave --env-file out of the call of node', inherited: false }
  if ((versions as { deno?: string }).deno !== undefined) {
    const files = findEnvFiles(getCurrentDirectory())
    return { files, turnOff: 'leave --env-file out of the call of deno', inherited: false }
  }
  if (!agent.startsWith('bun/')) return null
  return {
    files: findEnvFiles(getCurrentDirectory()),
    turnOff: 'start the script with bun --no-env-file run',
    inherited: true,
  }
}

/** The files that `--env-file FILE` and `--env-file-if-exists=FILE` name. */
function listFilesNamed(words: readonly string[]): string[] {
  return words.flatMap((word, index) => {
    const [, inline] = /^--env-file(?:-if-exists)?(?:=(.*))?$/s.exec(word) ?? [undefined, null]
    if (inline === null) return []
    const file = inline ?? words[index + 1]
    return file === undefined ? [] : [path.resolve(file)]
  })
}

function findEnvFiles(directory: string): string[] {
  try {
    return fs
      .readdirSync(directory)
      .filter(isEnvFile)
      .map((file) => path.join(directory, file))
  } catch {
    return []
  }
}

function document(file: string): ParsedEnvFile | null {
  try {
    return fs.statSync(file).isFile() ? ParsedEnvFile.readBytes(fs.readFileSync(file), null) : null
  } catch {
    return null
  }
}

/** What files say about each name that they have. */
function findEntries(files: readonly string[]): ReadonlyMap<string, readonly (string | Template)[]> {
  const said = new Map<string, (string | Template)[]>()
  for (const { name, value } of files.flatMap((file) => document(file)?.entries ?? [])) {
    const same = said.get(name)
    if (same === undefined) said.set(name, [value])
    else same.push(value)
  }
  return said
}

/** True where a value can have come from an entry: the same text, or one that has the fixed pieces of it in their order. */
function fits(template: string | Template, value: string): boolean {
  if (typeof template === 'string') return template === value
  let at = 0
  for (const piece of template) {
    if (typeof piece !== 'string') continue
    const found = value.indexOf(piece, at)
    if (found < 0) return false
    at = found + piece.length
  }
  return true
}

let known: ReadonlyMap<string, string> | null | undefined

/** What the system started this process with; `null` where it does not say. */
function readInitialEnvironment(): ReadonlyMap<string, string> | null {
  if (known !== undefined) return known
  known = null
  try {
    const pairs = fs.readFileSync('/proc/self/environ', 'utf8').split('\0')
    known = new Map(pairs.map((pair): [string, string] => [pair.split('=', 1)[0]!, pair.slice(pair.indexOf('=') + 1)]))
  } catch {}
  return known
}
