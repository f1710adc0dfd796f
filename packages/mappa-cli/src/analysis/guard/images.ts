import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { fs, path } from '@mappa/node/fs/builtin'
import { leadsOutside, toRelativePath } from '@mappa/node/fs/places'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { findRepository } from '@mappa/node/git/git'

const { createRequire } = process.getBuiltinModule('node:module')

/** A build of an image: the directory that goes to the builder, and the file that says how. Both are absolute paths. */
interface ImageBuild {
  readonly context: string
  readonly dockerfile: string
}

const DOCKERFILE = /^(?:.+\.)?Dockerfile(?:\..+)?$|^Containerfile$/i
const COMPOSE = /^(?:docker-)?compose(?:\.[\w-]+)*\.ya?ml$/i
const BAKE = /^docker-bake(?:\.override)?\.(?:hcl|json)$/i

/**
 * Whether a build of an image would take an env file into its context: by the Dockerfiles of the project's directory and those above it in the
 * repository, and by those that compose and bake files name.
 *
 * @param envFiles the env files of the project that exist, relative to its root
 */
export function checkImages(root: string, envFiles: readonly string[]): readonly Problem[] {
  const found = new Map<string, Problem>()
  for (const build of listBuilds(root)) {
    const { ignores, why } = readIgnoreRules(build)
    for (const file of envFiles) {
      const inner = toRelativePath(build.context, path.join(root, file))
      if (leadsOutside(inner) || ignores(inner) || found.has(file)) continue
      found.set(file, guardProblem('env-file-in-image', { file, dockerignore: why }, { file }))
    }
  }
  return [...found.values()]
}

function listBuilds(root: string): readonly ImageBuild[] {
  const builds = new Map<string, ImageBuild>()
  for (const directory of listDirectories(root))
    for (const name of listNames(directory))
      for (const build of findBuilds(directory, name)) builds.set(`${build.context}\n${build.dockerfile}`, build)
  return [...builds.values()]
}

/** The directory of the project and those above it, up to the top of the repository. */
function listDirectories(root: string): readonly string[] {
  const top = findRepository(root) ?? root
  const directories = [root]
  for (let at = root; at !== top && at !== path.dirname(at); at = path.dirname(at)) directories.push(path.dirname(at))
  return directories
}

function listNames(directory: string): readonly string[] {
  try {
    return fs.readdirSync(directory)
  } catch {
    return []
  }
}

function findBuilds(directory: string, name: string): readonly ImageBuild[] {
  const file = path.join(directory, name)
  if (DOCKERFILE.test(name) && !name.endsWith('.dockerignore')) return [{ context: directory, dockerfile: file }]
  if (COMPOSE.test(name)) return listComposeBuilds(directory, readRegularText(file) ?? '')
  return BAKE.test(name) ? listBakeBuilds(directory, readRegularText(file) ?? '') : []
}

function listComposeBuilds(directory: string, text: string): readonly ImageBuild[] {
  const { parse } = createRequire(import.meta.url)('yaml') as typeof import('yaml')
  let services: unknown
  try {
    services = (parse(text, { logLevel: 'silent' }) as { services?: unknown } | null)?.services
  } catch {
    // A compose file that can't be read builds nothing.
    return []
  }
  return Object.values((services ?? {}) as Record<string, { build?: unknown } | null>).flatMap((service) => {
    const build = service?.build
    if (typeof build === 'string') return toBuild(directory, build, undefined)
    const { context, dockerfile } = (build ?? {}) as Record<string, unknown>
    return build === undefined ? [] : toBuild(directory, context ?? '.', dockerfile)
  })
}

function listBakeBuilds(directory: string, text: string): readonly ImageBuild[] {
  const blocks = text.split(/\btarget\s+"|"target"\s*:/).slice(1)
  const read = (block: string, name: string) => new RegExp(`\\b${name}"?\\s*[:=]\\s*"([^"]*)"`).exec(block)?.[1]
  return blocks.flatMap((block) => toBuild(directory, read(block, 'context') ?? '.', read(block, 'dockerfile')))
}

/** Contexts from elsewhere take nothing of this machine along. */
function toBuild(directory: string, context: unknown, dockerfile: unknown): readonly ImageBuild[] {
  if (typeof context !== 'string' || /^(?:https?:|git[@:]|ssh:|docker-image:|target:)/.test(context)) return []
  const whole = path.resolve(directory, context)
  return [
    { context: whole, dockerfile: path.resolve(whole, typeof dockerfile === 'string' ? dockerfile : 'Dockerfile') },
  ]
}

/** Rules beside the Dockerfile take the place of those of the context. */
function readIgnoreRules({ context, dockerfile }: ImageBuild): {
  readonly ignores: (file: string) => boolean
  readonly why: string
} {
  const candidates = [`${dockerfile}.dockerignore`, path.join(context, '.dockerignore')]
  const rules = candidates.map((file) => [file, readRegularText(file)] as const).find(([, text]) => text !== null)
  // The rules of .dockerignore differ from those of git; this package follows Docker's own.
  const dockerignore = createRequire(import.meta.url)(
    '@balena/dockerignore',
  ) as typeof import('@balena/dockerignore').default
  const ignore = dockerignore().add(rules?.[1] ?? '')
  const name = rules === undefined ? '' : path.basename(rules[0])
  return {
    ignores: (file) => ignore.ignores(file),
    why: rules === undefined ? 'there is no .dockerignore' : `${name} does not name it`,
  }
}
