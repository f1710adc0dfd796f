import { escapeInvisible } from '../text/escape-invisible.ts'
import { wrapText } from '../text/wrap.ts'
import type { Problem } from './problem.ts'

/** A layer that was checked. */
export interface CheckedLayer {
  /** What a person calls it: `.env.production`, `the process environment`. */
  readonly title: string
  /** `read`; `absent`, a file that is not there; `unreadable`, a file whose problem is reported. */
  readonly state: 'read' | 'absent' | 'unreadable'
}

/** What a report tells. */
export interface Report {
  /** The stage, or `null` where the fault lies before any, as in a wrong definition. */
  readonly stage: string | null
  readonly problems: readonly Problem[]
  /** The program whose settings they are; all of them if left out or `null`. */
  readonly program?: string | null
  /** What the problems are about; the settings of the stage, or the definition, if left out. */
  readonly title?: string
  /** The layers, lowest first. */
  readonly layers?: readonly CheckedLayer[]
  /** The directory of the project. */
  readonly root?: string
  /** What decided that, as text. */
  readonly rootFrom?: string
}

/** How to colour the parts of a report. Each takes a text and gives it back with its colour. */
export interface Paint {
  readonly error: (text: string) => string
  readonly notice: (text: string) => string
  readonly strong: (text: string) => string
  readonly faint: (text: string) => string
}

/** Options of {@link formatReport}. */
export interface ReportOptions {
  /**
   * Colors for the parts of a report.
   * @default no colors
   */
  readonly paint?: Paint
  /**
   * Width to wrap lines at, in characters; at least 40.
   * @default lines are not wrapped
   */
  readonly width?: number | undefined
  /**
   * Changes the path of a file into the one to show.
   * @default it is shown as it is
   */
  readonly fileLabel?: (file: string) => string
  /**
   * How many problems to write out for each file; the rest are counted.
   * @default 25
   */
  readonly mostForOneFile?: number
}

const plain = (text: string) => text
const NO_PAINT: Paint = { error: plain, notice: plain, strong: plain, faint: plain }

/**
 * Writes a report for a person: files with errors first, in each file the errors first, each problem with its
 * place, its sentence, the line in question where it holds no secret, and what to do.
 *
 * @returns lines without a line feed at the end, safe to send to a terminal
 * @example
 * ```ts
 * const { stage, problems } = resolveSettings(definition)
 * formatReport({ stage, problems })
 * // Settings for development: 1 error
 * //
 * //   error  DOME_URL  missing
 * //     ...
 * ```
 */
export function formatReport(report: Report, options: ReportOptions = {}): string {
  const { paint = NO_PAINT, fileLabel = plain, mostForOneFile = 25 } = options
  const width = Math.max(40, options.width ?? Number.POSITIVE_INFINITY)
  const lines: string[] = [describeTotals(report, paint)]
  for (const group of groupProblems(report.problems)) {
    for (const each of group.slice(0, mostForOneFile)) {
      lines.push('', ...formatProblem(each, paint, width, fileLabel))
    }
    const left = group.length - mostForOneFile
    if (left > 0) {
      const where = group[0]!.file === null ? '' : ` in ${escapeInvisible(fileLabel(group[0]!.file))}`
      lines.push('', `  ... and ${left} more${where}.`)
    }
  }
  if (report.layers !== undefined) lines.push('', ...formatLayers(report, paint, width))
  return lines.join('\n')
}

/** Says how many errors and notices there are: `2 errors and 1 notice`. */
export function countProblems(problems: readonly Problem[]): string {
  const errors = problems.filter((each) => each.severity === 'error').length
  const notices = problems.length - errors
  const counts = [
    errors > 0 ? `${errors} error${errors === 1 ? '' : 's'}` : '',
    notices > 0 ? `${notices} notice${notices === 1 ? '' : 's'}` : '',
  ].filter((count) => count !== '')
  return counts.join(' and ') || 'no problems'
}

/** What messages call the settings that were looked at. */
export function describeSettings(stage: string, program: string | null): string {
  return program === null ? `Settings for ${stage}` : `Settings of ${program} for ${stage}`
}

/** What a report is about. */
export function toTitle({ title, stage, program = null }: Report): string {
  return title ?? (stage === null ? 'The definition of settings' : describeSettings(stage, program))
}

function describeTotals(report: Report, paint: Paint): string {
  const count = countProblems(report.problems)
  const subject = toTitle(report)
  const verb = report.problems.some((each) => each.severity === 'error') ? paint.error : paint.notice
  return `${paint.strong(escapeInvisible(subject))}: ${verb(count)}`
}

/** Problems in the order in which a report has them. */
export function sortProblems(problems: readonly Problem[]): readonly Problem[] {
  return groupProblems(problems).flat()
}

/** Problems of one file together, those with errors first, each file's errors first and then by place. */
function groupProblems(problems: readonly Problem[]): readonly (readonly Problem[])[] {
  const byPlace = new Map<string, Problem[]>()
  for (const each of problems) {
    const key = each.file ?? each.layer ?? ''
    const group = byPlace.get(key)
    if (group === undefined) byPlace.set(key, [each])
    else group.push(each)
  }
  const rank = (each: Problem) => (each.severity === 'error' ? 0 : 1)
  // What stands in no file comes first: it is missing altogether.
  const groupRank = (group: readonly Problem[]) => 2 * rank(group[0]!) + (group[0]!.file === null ? 0 : 1)
  const sorted = [...byPlace.values()].map((group) =>
    group.sort((a, b) => rank(a) - rank(b) || (a.line ?? 0) - (b.line ?? 0) || (a.column ?? 0) - (b.column ?? 0)),
  )
  return sorted.sort((a, b) => groupRank(a) - groupRank(b))
}

function formatProblem(each: Problem, paint: Paint, width: number, fileLabel: (file: string) => string): string[] {
  const colour = each.severity === 'error' ? paint.error : paint.notice
  const place = escapeInvisible(getPlace(each, fileLabel))
  const lines = [
    `  ${colour(each.severity)}  ${place === '' ? '' : `${paint.strong(place)}  `}${paint.faint(each.code)}`,
  ]
  lines.push(...wrapText(escapeInvisible(each.message), width, '    ', '    '))
  if (each.codeFrame !== null) {
    const gutter = String(each.line ?? '')
    lines.push(`      ${paint.faint(`${gutter} |`)} ${each.codeFrame.text}`)
    lines.push(
      `      ${paint.faint(`${' '.repeat(gutter.length)} |`)} ${' '.repeat(each.codeFrame.mark)}${colour('^')}`,
    )
  }
  for (const step of each.importTrace ?? []) lines.push(`      ${escapeInvisible(step)}`)
  lines.push(...wrapText(escapeInvisible(each.hint), width, '    → ', '      '))
  return lines
}

function getPlace(each: Problem, fileLabel: (file: string) => string): string {
  if (each.file === null) return each.layer ?? each.name ?? each.setting ?? ''
  const place = [fileLabel(each.file)]
  if (each.line !== null) place.push(String(each.line), String(each.column ?? 1))
  return place.join(':')
}

function formatLayers(report: Report, paint: Paint, width: number): string[] {
  const titles = report.layers!.map(({ title, state }) => (state === 'absent' ? `${title} (not found)` : title))
  const { root, rootFrom } = report
  const decided = rootFrom === undefined ? '' : ` (${rootFrom})`
  const where = root === undefined ? '' : ` in ${escapeInvisible(root)}${decided}`
  return wrapText(
    `Layers read${where}, lowest first: ${titles.map((each) => escapeInvisible(each)).join(', ')}`,
    width,
    '',
    '  ',
  ).map(paint.faint)
}
