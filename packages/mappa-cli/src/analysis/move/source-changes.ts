import { path } from '@mappa/node/fs/builtin'
import { leadsOutside, toRelativePath } from '@mappa/node/fs/places'
import { listPackages } from '../../project/manifest.ts'
import { isTestFile } from '../survey/exclusions.ts'
import { type Finding, listValues } from '../survey/findings.ts'
import type { ReadSetting } from './access-expression.ts'
import { findBrowserFiles } from './browser-files.ts'
import { canChange, chooseDriver, type DriverOptions, describeSurroundings, readText } from './choose-driver.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import type { MoveOptions } from './options.ts'
import { BROWSER_MODULE } from './settings-module.ts'
import type { SourceChange, SourceDriver } from './source-driver.ts'
import { isSpelled } from './spelled.ts'
import type { Wanted } from './wanted.ts'

/** A place of a finding, and why it is left alone, if it is. */
export interface MovePlace {
  readonly finding: Finding
  /** Relative to the root. */
  readonly file: string
  readonly line: number
  readonly column: number
  /** Where it begins and ends in the text, from 0. */
  readonly start: number
  readonly end: number
  /** Why it can't be replaced; `null` where it can. */
  readonly obstacle: Obstacle | null
  /** The variable name of the setting that it belongs to, where that is there already. */
  readonly name?: string
}

/** A source file in which findings stand. */
export interface MoveSource {
  readonly file: string
  readonly text: string
  readonly places: readonly MovePlace[]
  readonly wanted: ReadonlyMap<Wanted, Finding>
  /** Why nothing in it can be replaced, if so. */
  readonly obstacle: Obstacle | null
  /** True for code of a page that Vite builds: it gets public settings from the plugin. */
  readonly ofPage: boolean
  readonly driver: SourceDriver
}

/**
 * Finds every place at which findings stand, whether the survey looked there or not.
 *
 * @param files the source files of the project, by absolute paths
 * @param asked as in {@link MoveOptions}: tests are changed only if they are among these files and directories
 */
export function moveSources(
  root: string,
  files: readonly string[],
  findings: readonly Finding[],
  { asked, templates, clearOutputs }: Pick<MoveOptions, 'asked' | 'templates' | 'clearOutputs'>,
): readonly MoveSource[] {
  const packages = listPackages(root)
  const project: SourceProject = {
    root,
    asked,
    templates,
    clearOutputs,
    ofPages: findBrowserFiles(root),
    usesVite: 'vite' in packages,
    isMobile: 'react-native' in packages || 'expo' in packages,
    around: (whole) => describeSurroundings(whole, files, helpers),
  }
  const helpers = new Map<string, Set<string>>()
  const surveyed = new Set(findings.flatMap(({ places }) => places.map(({ file }) => file)))
  const wholes = new Set([...files, ...[...surveyed].map((file) => path.resolve(root, file))])
  return [...wholes].flatMap((whole) => moveSource(project, whole, findings, surveyed) ?? [])
}

/** What is known of the project whose sources are changed. */
interface SourceProject extends DriverOptions {
  readonly root: string
  readonly asked: readonly string[]
  readonly usesVite: boolean
}

/** What stands in one file; `null` where none of the findings does. */
function moveSource(
  project: SourceProject,
  whole: string,
  findings: readonly Finding[],
  surveyed: ReadonlySet<string>,
): MoveSource | null {
  const { root, usesVite } = project
  const file = toRelativePath(root, whole)
  const outside = leadsOutside(file)
  const label = outside ? whole : file
  if (!surveyed.has(label) && (outside || !canChange(file))) return null
  const text = readText(whole)
  const here = findings.filter((each) => isPlaced(each, label, text ?? ''))
  if (here.length === 0) return null
  const wanted = new Map(here.flatMap((each) => findWanted(each, label).map((one) => [one, each] as const)))
  const driver = chooseDriver(project, whole, file, text)
  const why = outside ? makeObstacle('outside') : driver.findObstacle([...wanted.keys()])
  // The plugin hands pages what is no secret.
  const ofPage = why?.code === 'browser' && usesVite && !/\.html?$/i.test(file)
  const obstacle = ofPage ? null : why
  const found = obstacle === null ? listAllPlaces(file, wanted, driver) : listSurveyedPlaces(here, label, obstacle)
  if (found.length === 0) return null
  const kept = staysAsTest(project, whole, label) ? makeObstacle('test', { file: label }) : null
  const places = found.map((each) => {
    const secretOnPage = ofPage && each.finding.secret ? makeObstacle('browser-secret') : null
    return { ...each, obstacle: kept ?? each.obstacle ?? secretOnPage }
  })
  return { file: label, text: text ?? '', places, wanted, obstacle: kept ?? obstacle, ofPage, driver }
}

/** True for a test that was not asked for. */
function staysAsTest({ root, asked }: SourceProject, whole: string, label: string): boolean {
  return isTestFile(label) && !asked.some((each) => isSelected(root, each, whole))
}

/** Every place of findings in a file, those among them that can't be replaced. */
function listAllPlaces(file: string, wanted: ReadonlyMap<Wanted, Finding>, driver: SourceDriver): readonly MovePlace[] {
  const found = driver
    .findPlaces([...wanted.keys()])
    .map(({ wanted: key, line, column, start, end, obstacle }): MovePlace => {
      return { finding: wanted.get(key)!, file, line, column, start, end, obstacle }
    })
  const printed = driver.listOutputs()
  const isPrinted = ({ start }: MovePlace) => printed.some((each) => each.start <= start && start < each.end)
  const missed = listMissedPlaces([...wanted.values()], file, found).map((each) => {
    if (!isPrinted(each)) return each
    return { ...each, obstacle: driver.clearsOutputs ? null : makeObstacle('output') }
  })
  return [...found, ...missed]
}

/** A file with the readings in the places of values. */
export interface RewrittenSource {
  readonly file: string
  /** `null` for a file that is new. */
  readonly before: string | null
  readonly after: string
}

/**
 * Puts the reading of settings in the place of values, and adds the import where it is missing.
 *
 * @param settings what each finding became; findings without one stay as they are
 */
export function rewriteSource(
  { file, text, wanted, ofPage, places, driver }: MoveSource,
  settings: ReadonlyMap<Finding, ReadSetting>,
  how: Pick<SourceChange, 'as' | 'module' | 'moduleType'>,
): RewrittenSource {
  const after = driver.rewrite({
    ...how,
    module: ofPage ? BROWSER_MODULE : how.module,
    ofPage,
    wanted: [...wanted.keys()],
    settingOf: (each) => settings.get(wanted.get(each)!),
    listStays: (each) => listStays(places, wanted.get(each)!),
    gone: [...new Set(wanted.values())].filter((finding) => settings.has(finding)).flatMap(listValues),
  })
  if (driver.template === null || after === text) return { file, before: text, after }
  return { file: driver.template, before: null, after }
}

/** The offsets at which a finding stays where it is. */
function listStays(places: readonly MovePlace[], finding: Finding): ReadonlySet<number> {
  return new Set(places.flatMap((each) => (each.finding === finding && each.obstacle !== null ? each.start : [])))
}

/** True for a test that was named itself, or whose directory was. */
function isSelected(root: string, asked: string, file: string): boolean {
  if (asked === file) return true
  const inner = toRelativePath(root, asked)
  return file.startsWith(`${asked}${path.sep}`) && isTestFile(`${inner}/`)
}

function isPlaced({ places, value, secret, kind, stageValues }: Finding, file: string, text: string): boolean {
  if (places.some((each) => each.file === file)) return true
  if (stageValues !== null) return false
  const wide = secret || (kind === 'url' && !isTestFile(file))
  return wide && isSpelled(text, value)
}

function findWanted({ places, value, secret, kind, stageValues }: Finding, file: string): readonly Wanted[] {
  const here = places.filter((each) => each.file === file)
  // What one stage has alone is replaced together with what the others have.
  if (stageValues !== null)
    return here.map((each): Wanted => {
      const { start, end } = each.choice ?? each
      return { value: each.value, reach: 'found', found: new Set([each.start]), within: { start, end } }
    })
  // An address may stand in a test or in a link of its own right; a secret may stand nowhere.
  const reach = kind === 'url' && !isTestFile(file) ? 'address' : 'found'
  return [{ value, reach: secret ? 'everywhere' : reach, found: new Set(here.map(({ start }) => start)) }]
}

/** The places that the survey gave, where nothing more can be checked. */
function listSurveyedPlaces(findings: readonly Finding[], file: string, obstacle: Obstacle): MovePlace[] {
  return findings.flatMap((finding) =>
    finding.places
      .filter((each) => each.file === file)
      .map(({ line, column, start, end }) => ({ finding, file, line, column, start, end, obstacle })),
  )
}

/** True where a value goes with another one: it is the same, or a part of it. */
function holds(one: Finding, other: Finding): boolean {
  return one === other || listValues(one).some((value) => listValues(other).every((part) => value.includes(part)))
}

/** The places that the survey gave, and at which nothing was found that could be replaced. */
function listMissedPlaces(findings: readonly Finding[], file: string, found: readonly MovePlace[]): MovePlace[] {
  const isCovered = ({ finding, start, end }: MovePlace) =>
    found.some((each) => each.start < end && start < each.end && holds(each.finding, finding))
  return listSurveyedPlaces(findings, file, makeObstacle('not-written')).filter((each) => !isCovered(each))
}
