import { spawnSync } from 'node:child_process'

/** One measured quantity: medians of what was measured and of what it is held against. */
export interface Measured {
  readonly what: string
  readonly subject: number
  readonly base: number
  /** The median of the ratios of neighbouring runs: depends less on how fast the machine is from one moment to the next. */
  readonly paired: number
  readonly runs: number
  /** The largest ratio allowed, or `null` where there is no limit. */
  readonly limit: number | null
}

/** The middle of some numbers. */
export function median(numbers: readonly number[]): number {
  const sorted = [...numbers].sort((a, b) => a - b)
  const middle = sorted.length >> 1
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2
}

/**
 * Measures two pieces of work in turn, so that whatever else the machine does meets both.
 *
 * @param runs how often each runs; the first two runs are thrown away
 * @returns the median time of each, in milliseconds, and the median of the ratios of neighbouring runs
 */
export function inTurn(
  runs: number,
  subject: () => void,
  base: () => void,
): { subject: number; base: number; paired: number } {
  const times = { subject: [] as number[], base: [] as number[] }
  for (let run = -2; run < runs; run++) {
    const both = [
      ['subject', subject],
      ['base', base],
    ] as const
    // Which of them runs first makes a difference of its own.
    for (const [key, work] of run % 2 === 0 ? both : [...both].reverse()) {
      const start = performance.now()
      work()
      const took = performance.now() - start
      if (run >= 0) times[key].push(took)
    }
  }
  const ratios = times.subject.map((took, run) => took / times.base[run]!)
  return { subject: median(times.subject), base: median(times.base), paired: median(ratios) }
}

/** Runs Node and waits for its end. */
export function runNode(args: readonly string[], options: { cwd?: string } = {}): void {
  const { status, stderr } = spawnSync(process.execPath, args, { ...options, stdio: ['ignore', 'ignore', 'pipe'] })
  if (status !== 0) throw new Error(`node ${args.join(' ')} ended with ${status}: ${stderr}`)
}

/** Something that is measured by itself. */
export interface Figure {
  readonly what: string
  readonly found: number
  /** `null` where there is none. */
  readonly limit: number | null
  readonly unit: string
  /** True where more is better. */
  readonly atLeast?: boolean
}

/** All that was measured in this process, for the report. */
export const measured: {
  readonly tables: (readonly [title: string, rows: readonly Measured[]])[]
  readonly figures: Figure[]
} = {
  tables: [],
  figures: [],
}

/** True where a figure is within its limit. */
export function isWithin({ found, limit, atLeast = false }: Figure): boolean {
  return limit === null || (atLeast ? found >= limit : found <= limit)
}

/** Prints figures, one a line; `true` where all are within their limits. */
export function printFigures(figures: readonly Figure[]): boolean {
  measured.figures.push(...figures)
  for (const each of figures) {
    const limit = each.limit === null ? '' : ` (limit: ${each.atLeast === true ? 'at least ' : ''}${each.limit})`
    console.log(`${each.what}: ${each.found.toFixed(1)} ${each.unit}${limit}${isWithin(each) ? '' : ', beyond it'}`)
  }
  return figures.every(isWithin)
}

/** Prints measurements as a table; `true` where all are within their limits. */
export function printTable(title: string, rows: readonly Measured[]): boolean {
  measured.tables.push([title, rows])
  console.log(`\n${title}`)
  console.table(
    rows.map(({ what, subject, base, paired, runs, limit }) => ({
      what,
      'median (ms)': Number(subject.toFixed(2)),
      'floor (ms)': Number(base.toFixed(2)),
      ratio: Number((subject / base).toFixed(3)),
      'by pairs': Number(paired.toFixed(3)),
      'at most': limit ?? '',
      runs,
    })),
  )
  const beyond = rows.filter(({ subject, base, limit }) => limit !== null && subject / base > limit)
  for (const { what } of beyond) console.log(`Beyond its limit: ${what}`)
  return beyond.length === 0
}
