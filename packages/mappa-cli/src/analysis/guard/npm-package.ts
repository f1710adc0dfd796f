import { holdsValues } from '@mappa/core/layers/env-file-name'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { fs, path } from '@mappa/node/fs/builtin'
import { findProgram } from '@mappa/node/git/programs'

const { spawnSync } = process.getBuiltinModule('node:child_process')
const { createRequire } = process.getBuiltinModule('node:module')

/** What was found, and what could not be checked, and why. */
export interface PackageCheck {
  readonly problems: readonly Problem[]
  readonly notScanned: string | null
}

/** Whether `npm publish` would carry an env file along. npm itself says what it would pack; no script of the package is run. */
export function checkPublished(root: string): PackageCheck {
  const manifest = readJson(path.join(root, 'package.json')) as { private?: boolean; name?: string } | null
  if (manifest === null || manifest.private === true || manifest.name === undefined)
    return { problems: [], notScanned: null }
  const output = askNpm(root)
  const packed = output === null ? null : parsePackedFiles(output)
  if (packed === null) return { problems: [], notScanned: 'what npm publish would carry along: npm did not say' }
  const problems = packed.filter(holdsValues).map((file) => guardProblem('env-file-published', { file }, { file }))
  return { problems, notScanned: null }
}

/** What npm may do on the way is turned off, whatever the configuration of the package says: scripts, requests, logs. */
const PACK = [
  'pack',
  '--dry-run',
  '--json',
  '--ignore-scripts',
  '--silent',
  '--offline',
  '--no-update-notifier',
  '--logs-max=0',
]

/** @returns what npm prints; `null` where there is no npm */
function askNpm(root: string): string | null {
  const program = findProgram('npm', root)
  if (program === null) return null
  // Windows starts command files through its shell alone.
  const isCommandFile = /\.(?:cmd|bat)$/i.test(program)
  const { stdout, error } = spawnSync(isCommandFile ? `"${program}"` : program, PACK, {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 1 << 28,
    shell: isCommandFile,
  })
  return error === undefined ? stdout : null
}

function parsePackedFiles(output: string): string[] | null {
  try {
    const packages = Object.values(JSON.parse(output) as Record<string, { files?: { path: string }[] }>)
    return packages.flatMap(({ files = [] }) => files.map((file) => file.path))
  } catch {
    return null
  }
}

/** Whether a Docker build in this directory would take an env file into its context. */
export function checkDockerContext(root: string, envFiles: readonly string[]): PackageCheck {
  const builds = fs.readdirSync(root).some((file) => /^(.*\.)?Dockerfile(\..*)?$|^Containerfile$/i.test(file))
  if (!builds) return { problems: [], notScanned: null }
  const rules = path.join(root, '.dockerignore')
  const hasRules = fs.existsSync(rules)
  // The rules of .dockerignore differ from those of git; this package follows Docker's own.
  const dockerignore = createRequire(import.meta.url)(
    '@balena/dockerignore',
  ) as typeof import('@balena/dockerignore').default
  const ignore = dockerignore().add(hasRules ? fs.readFileSync(rules, 'utf8') : '')
  const why = hasRules ? '.dockerignore does not name it' : 'there is no .dockerignore'
  const problems = envFiles
    .filter((file) => !ignore.ignores(file))
    .map((file) => guardProblem('env-file-in-image', { file, dockerignore: why }, { file }))
  return { problems, notScanned: null }
}

function readJson(file: string): unknown {
  try {
    return JSON.parse(fs.readFileSync(file, 'utf8'))
  } catch {
    return null
  }
}
