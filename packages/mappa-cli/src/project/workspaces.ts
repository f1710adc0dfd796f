import { fs, path } from '@mappa/node/fs/builtin'
import { isRegularFile } from '@mappa/node/fs/regular-file'
import { findDefinition } from '@mappa/node/project/definition/find'
import { chooseRoot } from '@mappa/node/project/root'
import { readManifest } from './manifest.ts'
import { directoriesMatching, type PatternMatches } from './workspace-patterns.ts'

/** A repository that declares its packages, as npm, Yarn and pnpm do. */
export interface Workspace extends Omit<PatternMatches, 'directories'> {
  /** The directory whose files declare them. */
  readonly root: string
  /** The packages, the root itself first, sorted by their directories. */
  readonly packages: readonly WorkspacePackage[]
}

/** One of its packages. */
export interface WorkspacePackage {
  /** The name in its `package.json`; its directory where there is none. */
  readonly name: string
  /** Relative to the root, with `/` between directories; `.` for the root. */
  readonly directory: string
  /** Absolute. */
  readonly root: string
  readonly hasDefinition: boolean
}

/** pnpm declares its packages in a file of its own, npm and Yarn in `package.json`. */
const PNPM = 'pnpm-workspace.yaml'

/**
 * The patterns that a directory declares its packages by.
 *
 * @returns `null` where it declares none
 */
export function workspacePatterns(root: string): readonly string[] | null {
  const { workspaces } = readManifest(root)
  const listed = Array.isArray(workspaces) ? workspaces : (workspaces as { packages?: unknown } | undefined)?.packages
  if (Array.isArray(listed)) return listed.filter((each) => typeof each === 'string')
  return isRegularFile(path.join(root, PNPM)) ? patternsOfPnpm(path.join(root, PNPM)) : null
}

function patternsOfPnpm(file: string): readonly string[] | null {
  const { createRequire } = process.getBuiltinModule('node:module')
  const { parse } = createRequire(import.meta.url)('yaml') as typeof import('yaml')
  try {
    const { packages } = (parse(fs.readFileSync(file, 'utf8')) ?? {}) as { packages?: unknown }
    return Array.isArray(packages) ? packages.filter((each) => typeof each === 'string') : null
  } catch {
    // What is wrong with that file is for pnpm to say.
    return null
  }
}

/** The directory of the current project, if it declares packages. */
export function ownWorkspaceRoot(): string | null {
  const { root } = chooseRoot(undefined)
  return workspacePatterns(root) === null ? null : root
}

/** The nearest directory that declares packages, at or above one; `null` where there is none. */
export function findWorkspaceRoot(directory: string): string | null {
  if (workspacePatterns(directory) !== null) return directory
  const parent = path.dirname(directory)
  return parent === directory ? null : findWorkspaceRoot(parent)
}

/**
 * The packages of a repository.
 *
 * @param root a directory that declares packages
 */
export function readWorkspace(root: string): Workspace {
  const { directories, ...rest } = directoriesMatching(root, workspacePatterns(root) ?? [])
  const packages = ['.', ...directories]
    .map((directory) => readPackage(root, directory))
    .filter(({ directory, hasDefinition }) => directory === '.' || hasDefinition || hasManifest(root, directory))
  return { root, packages, ...rest }
}

function hasManifest(root: string, directory: string): boolean {
  return isRegularFile(path.join(root, directory, 'package.json'))
}

function readPackage(root: string, directory: string): WorkspacePackage {
  const own = path.join(root, directory)
  return { name: readManifest(own).name ?? directory, directory, root: own, hasDefinition: hasDefinition(own) }
}

/** True also for a definition that is named and not there: that is told when it is opened. */
function hasDefinition(root: string): boolean {
  return findDefinition(root).kind !== 'none'
}
