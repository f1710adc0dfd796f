import type { Definition } from '@mappa/core/definition/definition'
import { packagesProblem } from '@mappa/core/problems/catalogue/packages'
import { settingsError } from '@mappa/core/problems/settings-error'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import { path } from '@mappa/node/fs/builtin'
import { getCurrentDirectory } from '@mappa/node/project/root'
import { Project } from '../project/project.ts'
import {
  findWorkspaceRoot,
  ownWorkspaceRoot,
  readWorkspace,
  type Workspace,
  type WorkspacePackage,
} from '../project/workspaces.ts'
import { hasOption, type PackageWords } from './words.ts'

/** The packages that a command works on, and those that it leaves out. */
export interface ChosenPackages {
  readonly workspace: Workspace
  readonly chosen: readonly WorkspacePackage[]
  /** Packages that the command can do nothing in, since they have no definition. */
  readonly without: readonly WorkspacePackage[]
}

/**
 * The packages that a command works on.
 *
 * @param needsDefinition true for a command that can do nothing without one
 * @returns `null` where it works on one project, as everywhere but at the root of a repository with packages
 * @throws {SettingsError} where packages are named that there are not
 */
export async function choosePackages(
  { patterns, rest }: PackageWords,
  needsDefinition: boolean,
): Promise<ChosenPackages | null> {
  if (hasOption(rest, '--root', '--settings', '--help', '-h')) return null
  const root = patterns.length > 0 ? findWorkspaceRoot(getCurrentDirectory()) : ownWorkspaceRoot()
  if (root === null) {
    if (patterns.length === 0) return null
    throw settingsError(packagesProblem('workspaces-missing', {}))
  }
  const workspace = readWorkspace(root)
  // What stands at the root alone is told as one project, with what is wrong there.
  const all = workspace.packages.filter((each) => each.directory !== '.' || each.hasDefinition || !needsDefinition)
  // Before there is a definition, the repository is one project.
  if (patterns.length === 0 && !all.some(({ hasDefinition }) => hasDefinition)) return null
  const named = patterns.length === 0 ? all : patterns.flatMap((each) => matching(each, all))
  const isUsable = ({ hasDefinition }: WorkspacePackage) => hasDefinition || !needsDefinition
  return {
    workspace: patterns.length === 0 ? workspace : { ...workspace, unmatched: [] },
    chosen: [...new Set(named)].filter(isUsable),
    without: [...new Set(named)].filter((each) => !isUsable(each)),
  }
}

/**
 * The package of a command that is about one: the only one there is, or the only one that declares the setting that is named.
 *
 * @param name what the command names, empty if nothing
 * @param isShared true where it is about the layer files that packages share: if all have the same, any of the packages will do
 * @throws {SettingsError} where there are several
 */
export async function theOnePackage(
  { chosen }: ChosenPackages,
  name: string,
  isShared: boolean,
): Promise<WorkspacePackage> {
  const [first] = chosen
  if (chosen.length === 1 && first !== undefined) return first
  const having: (readonly [WorkspacePackage, string])[] = []
  for (const each of chosen) {
    const definition = await getDefinition(each)
    const declares = definition?.settings.some((one) => one.name === name || one.path === name) === true
    const places = definition?.layersFrom.map((directory) => path.resolve(each.root, directory)) ?? []
    if (declares) having.push([each, places.join('\0')])
  }
  const isSame = isShared && new Set(having.map(([, places]) => places)).size === 1
  if (having.length === 1 || isSame) return having[0]![0]
  const names = (having.length > 0 ? having.map(([each]) => each) : chosen).map((each) => each.name)
  throw settingsError(packagesProblem('packages-to-choose', { name: name === '' ? 'This' : name, names }))
}

/** The definition of a package; `null` where it can't be read, which the command tells if the package is chosen. */
async function getDefinition({ root }: WorkspacePackage): Promise<Definition | null> {
  try {
    return (await Project.open({ root })).definition
  } catch {
    return null
  }
}

function matching(pattern: string, packages: readonly WorkspacePackage[]): readonly WorkspacePackage[] {
  const wanted = new RegExp(
    `^${pattern
      .split('*')
      .map((piece) => escapePattern(piece))
      .join('.*')}$`,
  )
  const found = packages.filter(({ name, directory }) => wanted.test(name) || wanted.test(directory))
  if (found.length > 0) return found
  const near = makeClosestMatch(packages.map(({ name }) => name))(pattern)
  throw settingsError(packagesProblem('package-unknown', { asked: JSON.stringify(pattern.slice(0, 80)), near }))
}

const escapePattern = (text: string) => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&')
