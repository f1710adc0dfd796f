import type { Definition } from '@mappa/core/definition/definition'
import { isLocalFile } from '@mappa/core/layers/env-file-name'
import type { Problem } from '@mappa/core/problems/problem'
import { fs, path } from '@mappa/node/fs/builtin'
import { leadsOutside, toRelativePath } from '@mappa/node/fs/places'
import { findRepository } from '@mappa/node/git/git'
import { type Inspection, inspectStage } from '@mappa/node/load/inspect'
import { listPresentStages } from '@mappa/node/sources/present-stages'
import { collectNeedles, type SearchedSecret } from '@mappa/search/needles'
import { Coverage, countTypes, type TypeCount } from '@mappa/search/read/coverage'
import { surveyProject } from '../survey/survey.ts'
import { checkIgnored, checkModes, type EnvFile, listAllLayerPaths, listEnvFiles } from './env-files.ts'
import { type FormerValue, findFormerInUse, withFormer } from './former.ts'
import { checkHistory } from './history.ts'
import { checkImages } from './images.ts'
import { collectCodeNeedles } from './in-code.ts'
import { checkPublished } from './npm-package.ts'
import { searchOutput } from './output.ts'
import { describeFailed, reportFailed, reportOpaque } from './skipped.ts'
import { checkStaged } from './staged.ts'
import { searchTracked } from './tracked.ts'
import { checkUndeclared, listSure, reportCredential } from './undeclared.ts'
import { listOtherRoots } from './worktrees.ts'

/** What to look at. */
export interface GuardOptions {
  /** True to look through every commit as well. */
  readonly history?: boolean
  /** True to check staged files only. */
  readonly staged?: boolean
  /** Files and directories to search for secrets, such as built output; absolute paths. */
  readonly paths?: readonly string[]
  /** True to check the env files of the project alone, and what is packed with it. */
  readonly ownFiles?: boolean
  /** A value to look for that a setting had before. */
  readonly former?: FormerValue
  /** True to fail where something was searched byte by byte only. */
  readonly strict?: boolean
}

/** A project whose secrets are looked for. */
export interface GuardedProject {
  readonly root: string
  readonly definition: Definition
}

/** What was found, and how far the look went. */
export interface GuardReport {
  readonly problems: readonly Problem[]
  /** What was scanned, as text. */
  readonly scanned: readonly string[]
  /** What was not, and why, as text. */
  readonly notScanned: readonly string[]
  /** What could not be looked at; each is a problem as well. */
  readonly failed: readonly string[]
  /** What was searched byte by byte only, since nothing here opens it: types, with how many there are. */
  readonly opaque: readonly TypeCount[]
  /** How many different values of secrets were scanned for. */
  readonly values: number
}

/**
 * Looks for secrets where they must not be. Places and names are told, values never.
 *
 * @param root the directory of the project
 */
export async function guardProject(
  root: string,
  definition: Definition,
  options: GuardOptions = {},
): Promise<GuardReport> {
  const inspections = inspectStages({ root, definition })
  const { needles, values, problems } = collectNeedles([...inspections, ...inspectOthers({ root, definition })])
  const { former } = options
  const wanted = former === undefined ? needles : withFormer(needles, former)
  const inUse = former === undefined ? [] : findFormerInUse(former, inspections)
  const guard = new Guard(root, [{ root, definition }], wanted, [...problems, ...inUse, ...listUnread(inspections)])
  if (options.staged) await guard.checkStaged()
  else {
    guard.checkEnvFiles(options.ownFiles === true)
    guard.checkPackaged()
    if (options.ownFiles !== true) await guard.search(options)
  }
  const isOneMore = former !== undefined && inUse.length === 0
  return guard.report(isOneMore ? values + 1 : values, options)
}

/**
 * Looks once for the secrets of many packages in everything that a repository has; what each has by itself is left to {@link guardProject}.
 *
 * @param top the directory of the repository
 */
export async function guardPackages(
  top: string,
  projects: readonly GuardedProject[],
  options: GuardOptions = {},
): Promise<GuardReport> {
  const found = projects.map((each) => collectNeedles([...inspectStages(each), ...inspectOthers(each)]))
  const guard = new Guard(top, projects, removeDuplicates(found.flatMap(({ needles }) => needles)), [])
  guard.checkSharedEnvFiles()
  await guard.search(options)
  const values = found.reduce((sum, each) => sum + each.values, 0)
  return guard.report(values, options)
}

function inspectStages({ root, definition }: GuardedProject): readonly Inspection<Definition>[] {
  return listPresentStages(root, definition).map((stage) =>
    inspectStage(definition, { stage, from: 'guard' }, { root }),
  )
}

/** The same in the other working trees of the repository. */
function inspectOthers({ root, definition }: GuardedProject): readonly Inspection<Definition>[] {
  return listOtherRoots(root).flatMap((each) => inspectStages({ root: each, definition }))
}

/** What packages share is looked for once. */
function removeDuplicates(needles: readonly SearchedSecret[]): readonly SearchedSecret[] {
  return [...new Map(needles.map((each) => [`${each.name} ${each.patterns[0]?.text}`, each])).values()]
}

/** Checks one place after the other, and keeps what was found, what was scanned and what was not. */
class Guard {
  readonly problems: Problem[]
  readonly scanned: string[] = []
  readonly notScanned: string[] = []
  readonly #coverage = new Coverage()
  readonly #root: string
  readonly #projects: readonly GuardedProject[]
  readonly #needles: readonly SearchedSecret[]
  readonly #localFiles: readonly string[]
  readonly #files: readonly EnvFile[]
  readonly #repository: string | null

  constructor(
    root: string,
    projects: readonly GuardedProject[],
    needles: readonly SearchedSecret[],
    problems: readonly Problem[],
  ) {
    this.problems = [...problems]
    this.#root = root
    this.#projects = projects
    this.#needles = needles
    const inner = (own: string, file: string) => toRelativePath(root, path.join(own, file))
    const localFiles = projects.flatMap((each) =>
      listAllLayerPaths(each.root, each.definition)
        .filter(isLocalFile)
        .map((file) => inner(each.root, file)),
    )
    this.#localFiles = [...new Set(localFiles)]
    this.#files = projects.flatMap((each) =>
      listEnvFiles(each.root, each.definition).map((found) => ({ ...found, file: inner(each.root, found.file) })),
    )
    this.#repository = findRepository(root)
    if (this.#repository === null)
      this.notScanned.push('what git tracks, ignores and has in its history: this is not a git repository')
  }

  /** What was found, and how much that is worth. */
  report(values: number, { strict = false }: GuardOptions): GuardReport {
    const coverage = this.#coverage
    const unread = [...reportFailed(coverage), ...(strict ? reportOpaque(coverage) : [])]
    return {
      problems: [...this.problems, ...unread],
      scanned: this.scanned,
      notScanned: this.notScanned,
      failed: describeFailed(coverage),
      opaque: countTypes(coverage.opaque),
      values,
    }
  }

  async checkStaged(): Promise<void> {
    if (this.#repository === null) return
    this.problems.push(...(await checkStaged(this.#root, this.#localFiles, this.#needles, this.#coverage)))
    this.problems.push(...(await checkUndeclared(this.#root, this.#needles, this.#coverage)))
    this.scanned.push('staged files')
  }

  /** @param ownOnly true to leave out the files that packages share, which are looked at once for all */
  checkEnvFiles(ownOnly: boolean): void {
    this.#checkFiles(ownOnly ? this.#files.filter(({ file }) => !leadsOutside(file)) : this.#files)
  }

  /** The files that packages share, each once, with the secrets that any of the packages has in it. */
  checkSharedEnvFiles(): void {
    const owners = new Map<string, Set<string>>()
    const found = new Map<string, EnvFile>()
    for (const { root, definition } of this.#projects) {
      for (const each of listEnvFiles(root, definition).filter(({ file }) => leadsOutside(file))) {
        const file = toRelativePath(this.#root, path.join(root, each.file))
        const secrets = owners.get(file) ?? new Set()
        for (const name of each.secrets) secrets.add(name)
        owners.set(file, secrets)
        found.set(file, { ...each, file, secrets: [...secrets] })
      }
    }
    if (found.size > 0) this.#checkFiles([...found.values()])
  }

  #checkFiles(files: readonly EnvFile[]): void {
    const names = files.map(({ file }) => file)
    this.scanned.push(names.length === 0 ? 'no env files: there are none' : names.join(', '))
    if (this.#repository !== null) this.problems.push(...checkIgnored(this.#root, files))
    this.problems.push(...checkModes(this.#root, files))
  }

  /** What npm and Docker would take along. */
  checkPackaged(): void {
    const { problems, files, notScanned } = checkPublished(this.#root, this.#needles, this.#coverage)
    this.problems.push(...problems)
    if (files.length > 0) this.scanned.push(`${countFiles(files.length)} that npm would publish`)
    if (notScanned !== null) this.notScanned.push(notScanned)
    const names = this.#files.map(({ file }) => file)
    this.problems.push(...checkImages(this.#root, names))
  }

  /** Everything that git has or had, and what else is named. */
  async search({ history, paths }: GuardOptions): Promise<void> {
    await this.searchTracked()
    if (this.#needles.length === 0) this.findCredentials()
    await this.searchHistory(history === true)
    this.searchOutput(paths ?? [])
  }

  async searchTracked(): Promise<void> {
    if (this.#repository === null) return
    const root = fs.realpathSync(this.#root)
    const own = new Set(this.#files.map(({ file }) => path.join(root, file)))
    const settings = this.#projects.flatMap(({ definition }) => definition.settings)
    const secrets = new Set(settings.filter(({ secret }) => secret).map(({ name }) => name))
    const coverage = this.#coverage
    this.problems.push(...(await searchTracked({ root, secrets, needles: this.#needles, own, coverage })))
    this.scanned.push(`${countFiles(coverage.read)} that git tracks or does not ignore`)
  }

  /** Where no secret has a value to search for, what looks like one is told. */
  findCredentials(): void {
    const projects = this.#projects.length > 0 ? this.#projects : [{ root: this.#root, definition: null }]
    let unread = 0
    for (const { root, definition } of projects) {
      const { findings, skipped } = surveyProject(root, definition)
      unread += skipped.length
      for (const each of listSure(findings))
        this.problems.push(...reportCredential(each, { code: 'credential-in-code', needles: this.#needles }))
    }
    this.scanned.push('the code, for what looks like a credential')
    if (unread > 0) this.notScanned.push(`for that, ${countFiles(unread)} that mappa survey --json lists as skipped`)
  }

  async searchHistory(isAsked: boolean): Promise<void> {
    if (this.#repository === null) return
    if (!isAsked) {
      this.notScanned.push('the history: add --history')
      return
    }
    const inCode = this.#projects.flatMap((each) => collectCodeNeedles(each, this.#needles))
    const needles = [...this.#needles, ...inCode]
    const { problems, extent } = await checkHistory(this.#root, this.#localFiles, needles, this.#coverage)
    // What the last commit has is part of the history.
    const committed = new Set(problems.filter(({ code }) => code === 'secret-committed').map(toPlace))
    const others = this.problems.filter((each) => each.code !== 'secret-in-version' || !committed.has(toPlace(each)))
    this.problems.splice(0, this.problems.length, ...others, ...problems)
    const count = new Set(inCode.map(({ name }) => name)).size
    this.scanned.push(count === 0 ? extent : `${extent}, including ${count} that the survey finds in the code`)
  }

  /** @param paths absolute paths of files and directories, such as built output */
  searchOutput(paths: readonly string[]): void {
    if (paths.length === 0) return
    const own = new Set(this.#files.map(({ file }) => path.join(this.#root, file)))
    const coverage = this.#coverage
    const { problems, files } = searchOutput({ root: this.#root, paths, needles: this.#needles, own, coverage })
    // What git has was told already.
    const told = new Set(this.problems.map(toPlace))
    this.problems.push(...problems.filter((each) => !told.has(toPlace(each))))
    const where = paths.map((each) => path.relative(this.#root, each) || '.').join(', ')
    this.scanned.push(`${countFiles(files)} in ${where}`)
  }
}

const toPlace = ({ file, name }: Problem) => `${file} ${name}`
const countFiles = (count: number) => `${count} file${count === 1 ? '' : 's'}`

/** What keeps env files from being read in full, and their values from being searched for. */
function listUnread(inspections: readonly Inspection[]): Problem[] {
  const found = new Map<string, Problem>()
  for (const { layers } of inspections) {
    for (const each of layers.flatMap(({ problems }) => problems)) {
      const { severity, file, line, column, code } = each
      if (severity === 'error') found.set([file, line, column, code].join(' '), each)
    }
  }
  return [...found.values()]
}
