/**
 * What a file is by its name:
 * - `values`: `.env` and `.env.<stage>`, which are committed
 * - `local`: `.env.local` and `.env.<stage>.local`, which stay on one machine
 * - `example`: `.env.example`, which has no values
 * - `copy`: `.env.bak`, `.env~`, `.env.production.old`, which hold values, but which nothing reads
 * - `similar`: `config.env`, `env.txt`, `env.ts`: a file with values, or something else
 */
export type EnvFileKind = 'values' | 'local' | 'example' | 'copy' | 'similar'

/** The name of the file that tells colleagues which settings there are. */
export const EXAMPLE_FILE = '.env.example'

/** Endings that editors, tools and people give to copies. */
const COPY_ENDING = /\.(?:bak|backup|copy|old|orig|rej|save|sw[op]|tmp)$/
/** `.envrc` and `.env-tools.ts` are something else. */
const ENV_FILE = /^\.env(?:[.~ ]|$)/
const WITH_ENV = /(?:^|[._-])env(?:[._-]|$)/

/**
 * Says what a file is, by its name alone. This is the only place that answers it. Some file systems take capital letters for small
 * ones, so all names are compared in small letters.
 *
 * @param file a name, or a path with `/` or `\`
 * @returns `null` for a file that has nothing to do with env files
 */
export function classifyEnvFile(file: string): EnvFileKind | null {
  const name = file.slice(Math.max(file.lastIndexOf('/'), file.lastIndexOf('\\')) + 1).toLowerCase()
  if (!ENV_FILE.test(name)) return WITH_ENV.test(name) ? 'similar' : null
  if (name === EXAMPLE_FILE) return 'example'
  if (/^\.env(?:\..+)?\.local$/.test(name)) return 'local'
  return /^\.env(?:\.|$)/.test(name) && !COPY_ENDING.test(name) ? 'values' : 'copy'
}

/** True for a file that holds values of settings, or a copy of one; not for the example. */
export function holdsValues(file: string): boolean {
  const kind = classifyEnvFile(file)
  return kind === 'values' || kind === 'local' || kind === 'copy'
}

/** True for a file that holds values of settings, for a copy of one, and for the example. */
export function isEnvFile(file: string): boolean {
  const kind = classifyEnvFile(file)
  return kind !== null && kind !== 'similar'
}

/** True for a file that belongs to one machine and is never committed. */
export function isLocalFile(file: string): boolean {
  return classifyEnvFile(file) === 'local'
}

/** The stage that a layer file is of, by its name; `null` for one of all stages, and for what is no layer file. */
export function findStageName(file: string): string | null {
  const kind = classifyEnvFile(file)
  if (kind !== 'values' && kind !== 'local') return null
  const stage = /(?:^|\/)\.env\.([a-z][a-z0-9-]*)(?:\.local)?$/.exec(file)?.[1] ?? null
  return stage === 'local' ? null : stage
}

/** True for a layer, by its id, that holds for all stages. */
export function isForAllStages(layer: string): boolean {
  return /(?:^|\/)\.env(?:\.local)?$/.test(layer)
}
