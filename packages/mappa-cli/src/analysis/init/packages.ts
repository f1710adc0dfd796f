import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { updateFile } from '@mappa/node/fs/update-file'
import { findRepository } from '@mappa/node/git/git'
import { readWorkspace, type Workspace, type WorkspacePackage } from '../../project/workspaces.ts'
import { chooseProjectEnding } from '../move/settings-module.ts'
import { listSourceFiles } from '../survey/files.ts'
import { collectDeclared, type Declared } from './declared.ts'
import type { DraftSetting } from './draft.ts'
import { writeSharedDefinition } from './draft-source.ts'
import { ignoreLocalFiles, type SetUp, setUpProject } from './init.ts'
import { relocate } from './relocate.ts'
import type { PackageShare } from './share.ts'
import { findSharedVariables, type SharedVariable } from './shared-variables.ts'
import { type ProjectSummary, summarizeProject } from './summary.ts'
import { listVariables, type Variables } from './variables.ts'

/** A package that gets a definition. */
export interface PlannedPackage {
  readonly each: WorkspacePackage
  readonly summary: ProjectSummary
  /** The variables that it uses. */
  readonly names: readonly string[]
}

/** What setting up the packages of a repository does. */
export interface PackagesPlan {
  readonly workspace: Workspace
  /** Those that get a definition. */
  readonly packages: readonly PlannedPackage[]
  /** Those that have one. */
  readonly defined: readonly WorkspacePackage[]
  /** Those that read no variables and have no env files. */
  readonly without: readonly WorkspacePackage[]
  /** The variables that several of them use, sorted. */
  readonly shared: readonly SharedVariable[]
  /** The module with the shared part, relative to the root; `null` where nothing is shared or no package can import it. */
  readonly module: string | null
  /** The stages that they get. */
  readonly stages: readonly string[]
  /** What is declared by those that have a definition. */
  readonly declared: Declared
  /** The variables that some of them use and others, with a definition, declare already. */
  readonly known: readonly KnownVariable[]
}

/** A variable that packages without a definition use, and others declare. */
export interface KnownVariable {
  readonly name: string
  /** The directories of the packages that use it. */
  readonly users: readonly string[]
  /** The directories of those that declare it. */
  readonly declaredBy: readonly string[]
}

/**
 * Looks at the packages of a repository. Changes nothing.
 *
 * @param stagesOf is given the stages that fit in with what is there, and says which ones the packages get
 */
export async function planPackages(
  root: string,
  stagesOf: (fitting: readonly string[]) => Promise<readonly string[]>,
): Promise<PackagesPlan> {
  const workspace = readWorkspace(root)
  const defined = workspace.packages.filter(({ hasDefinition }) => hasDefinition)
  const declared = await collectDeclared(defined)
  const stages = defined.length < workspace.packages.length ? await stagesOf(declared.stages) : declared.stages
  const others = workspace.packages.filter(({ directory }) => directory !== '.').map((each) => each.root)
  const open = workspace.packages
    .filter(({ hasDefinition }) => !hasDefinition)
    .map((each) => {
      const summary = summarizeProject(each.root, each.directory === '.' ? others : [])
      return { each, summary, variables: listVariables(each.root, summary, stages) }
    })
  // What stands in the env files of the root is for its packages, and no program reads it there.
  const used = open.filter(({ each, summary, variables }) =>
    each.directory === '.' ? summary.reads.length > 0 : variables.byName.size > 0,
  )
  const isRead = new Set(used.flatMap(({ variables }) => [...variables.byName.keys()]))
  const found = open
    .map(({ each, variables }) => ({ directory: each.directory, variables: keepOnly(variables, isRead) }))
    .filter(({ variables }) => variables.byName.size > 0)
  const shared = findSharedVariables(found, stages)
  const packages = used.map(({ each, summary, variables }) => ({ each, summary, names: [...variables.byName.keys()] }))
  return {
    workspace,
    packages,
    defined,
    without: open.filter((each) => !used.includes(each) && each.each.directory !== '.').map(({ each }) => each),
    shared,
    module: shared.some(({ draft }) => draft !== null) ? chooseModule(packages, root) : null,
    stages,
    declared,
    known: listKnownVariables(packages, declared),
  }
}

function listKnownVariables(packages: readonly PlannedPackage[], { byName }: Declared): KnownVariable[] {
  return [...byName].flatMap(([name, declaredBy]) => {
    const users = packages.filter(({ names }) => names.includes(name)).map(({ each }) => each.directory)
    return users.length === 0 ? [] : [{ name, users, declaredBy }]
  })
}

function keepOnly(variables: Variables, names: ReadonlySet<string>): Variables {
  return { ...variables, byName: new Map([...variables.byName].filter(([name]) => names.has(name))) }
}

/** In JavaScript where any package that shares has its definition in it. */
function chooseModule(packages: readonly PlannedPackage[], root: string): string | null {
  const places = packages.map(({ summary }) => summary.place).filter((place) => !place.endsWith('.json'))
  if (places.length === 0) return null
  const ending = places.every((place) => place.endsWith('.ts')) ? 'ts' : 'mjs'
  // One that is there has other settings, which packages count on.
  for (let number = 1; ; number++) {
    const file = `settings.shared${number === 1 ? '' : number}.${ending}`
    if (!fs.existsSync(path.join(root, file))) return file
  }
}

/** What was done in one package. */
export interface PackageSetUp {
  readonly each: WorkspacePackage
  readonly setUp: SetUp
}

/** Sets the packages up as planned: first what they share, then each package. */
export async function setUpPackages(plan: PackagesPlan): Promise<readonly PackageSetUp[]> {
  const { stages, workspace } = plan
  const { root } = workspace
  const drafts = plan.shared.flatMap(({ draft }) => draft ?? [])
  const module = plan.module === null ? null : path.join(root, plan.module)
  if (module !== null) await updateFile(module, (before) => before ?? writeSharedDefinition(drafts))
  await ignoreLocalFiles(root, stages, findRepository(root) !== null)
  const moves = plan.shared.flatMap((each) => each.moves).map((each) => ({ ...each, contradicted: false }))
  await relocate(root, moves)
  const done: PackageSetUp[] = []
  for (const planned of plan.packages) {
    const share = drafts.length === 0 ? null : planShare(planned, drafts, module, root)
    const { each, summary } = planned
    done.push({ each, setUp: await setUpProject(each.root, summary, stages, async () => true, share) })
  }
  return done
}

function planShare(
  { each, names }: PlannedPackage,
  drafts: readonly DraftSetting[],
  module: string | null,
  root: string,
): PackageShare | null {
  const own = new Set(names)
  const used = new Set(drafts.filter(({ name }) => own.has(name)).map(({ name }) => name))
  if (used.size === 0) return null
  const up = toRelativePath(each.root, root)
  const ending = chooseProjectEnding(each.root, listSourceFiles(each.root, [each.root]).files)
  return { names: used, drafts, module, layersFrom: up === '' ? null : up, ending }
}
