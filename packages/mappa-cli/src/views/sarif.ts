import type { Problem } from '@mappa/core/problems/problem'
import { path } from '@mappa/node/fs/builtin'
import { leadsOutside, toRelativePath } from '@mappa/node/fs/places'
import type { Log, ReportingDescriptor, Result } from 'sarif'
import type { Finding } from '../analysis/survey/findings.ts'
import type { Read } from '../analysis/survey/reads.ts'
import { findingProblem, listReadProblems } from './finding-problem.ts'

const { pathToFileURL } = process.getBuiltinModule('node:url')

/** Where files lie: what paths of problems begin at, and what those of the log are relative to. */
export interface SarifPlaces {
  /** The directory of the project. */
  readonly root: string
  /** The top directory of the repository, where hosts look for files; that of the project if there is none. */
  readonly base: string
}

/** What a survey found. */
export interface Found {
  readonly findings: readonly Finding[]
  readonly reads: readonly Read[]
}

/** A result before it is told where rules stand. */
interface Told {
  readonly code: string
  readonly level: 'error' | 'warning'
  readonly text: string
  readonly name: string | null
  readonly setting: string | null
  readonly stage: string | null
  readonly file: string | null
  readonly line: number | null
  readonly column: number | null
  readonly endLine: number | null
  readonly endColumn: number | null
  /** From 0 to 100; `null` where nothing is known of it. */
  readonly rank: number | null
}

/**
 * Writes problems as a log of SARIF 2.1.0 (OASIS Static Analysis Results Interchange Format).
 *
 * @param version that of this program
 */
export function sarifOfProblems(problems: readonly Problem[], places: SarifPlaces, version: string): Log {
  const told = problems.map((each) => getTold(each, null))
  return toLog(told, places, version)
}

/** Writes what a survey found as such a log: one result for each place. */
export function sarifOfFindings({ findings, reads }: Found, places: SarifPlaces, version: string): Log {
  const told = findings.flatMap((finding) =>
    finding.places.map((place): Told => getTold(findingProblem(finding, place), Math.round(finding.confidence * 100))),
  )
  const read = reads.flatMap(listReadProblems).map((each) => getTold(each, null))
  return toLog([...told, ...read], places, version)
}

function getTold({ code, severity, message, hint, ...place }: Problem, rank: number | null): Told {
  return { ...place, code, level: severity === 'error' ? 'error' : 'warning', text: `${message} ${hint}`, rank }
}

function toLog(told: readonly Told[], places: SarifPlaces, version: string): Log {
  const codes = [...new Set(told.map(({ code }) => code))].sort()
  const counts = new Map<string, number>()
  const base = pathToFileURL(`${places.base}${path.sep}`).href
  return {
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'mappa', semanticVersion: version, rules: codes.map(toRule) } },
        columnKind: 'utf16CodeUnits',
        originalUriBaseIds: { SRCROOT: { uri: base } },
        results: told.map((each) => toResult(each, codes.indexOf(each.code), places, makeFingerprint(each, counts))),
      },
    ],
  }
}

function toRule(id: string): ReportingDescriptor {
  const words = id.replaceAll('-', ' ')
  return { id, shortDescription: { text: `${words[0]!.toUpperCase()}${words.slice(1)}.` } }
}

function toResult(each: Told, ruleIndex: number, places: SarifPlaces, own: string): Result {
  const { code, level, name, rank, setting, stage, text, file } = each
  return {
    ruleId: code,
    ruleIndex,
    level,
    message: { text },
    ...(rank === null ? {} : { rank }),
    locations: [
      {
        ...(file === null
          ? {}
          : { physicalLocation: { artifactLocation: toArtifact(file, places), ...toRegion(each) } }),
        ...(name === null
          ? {}
          : {
              logicalLocations: [
                { name, ...(setting === null ? {} : { fullyQualifiedName: setting }), kind: 'variable' },
              ],
            }),
      },
    ],
    partialFingerprints: { 'mappa/v1': own },
    ...(stage === null ? {} : { properties: { stage } }),
  }
}

/** A file below the base is told from there, any other one by its whole address. */
function toArtifact(file: string, { root, base }: SarifPlaces) {
  const whole = path.resolve(root, file)
  const inner = toRelativePath(base, whole)
  if (inner === '' || leadsOutside(inner)) return { uri: pathToFileURL(whole).href }
  return { uri: inner.split('/').map(encodeURIComponent).join('/'), uriBaseId: 'SRCROOT' }
}

function toRegion({ line, column, endLine, endColumn }: Told) {
  if (line === null) return {}
  const end = endLine === null || endColumn === null ? {} : { endLine, endColumn }
  return { region: { startLine: line, ...(column === null ? {} : { startColumn: column }), ...end } }
}

/** What stays the same when lines move. Made of names alone, never of values; those that are alike are counted. */
function makeFingerprint({ code, file, name, stage }: Told, counts: Map<string, number>): string {
  const key = JSON.stringify([code, file, name, stage])
  const count = counts.get(key) ?? 0
  counts.set(key, count + 1)
  // Every check loads this file, and only a log needs a digest.
  const { createHash } = process.getBuiltinModule('node:crypto')
  return createHash('sha256').update(`${key} ${count}`).digest('hex').slice(0, 32)
}
