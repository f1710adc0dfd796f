import { writeFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { join } from 'node:path'
import type { Growth } from './growth.ts'
import { isWithin, type Measured, measured } from './measure.ts'

const FILE = join(import.meta.dirname, '../docs/performance.md')

/** Why what is beyond its limit is there, and what would be tried next; by the beginnings of rows. */
const REASONS: Readonly<Record<string, string>> = {
  'start with 50 settings':
    'The program reads four files, converts 50 values and compiles about 90 kB of code, where the empty one does nothing. Next: fewer kinds in a bundle, since each brings its conversion.',
  'the same, imported':
    'Node opens six files of the library and compiles 200 kB. Next: a build of the start alone, without what only commands need.',
  resolving:
    'Each value keeps its origin, its candidates and its checks, where the floor fills an object. Next: the candidates are made when somebody asks.',
  'mappa compare':
    'Three stages are read and resolved, where the floor starts Node. Next: the settings of stages share what is the same in all.',
  'first survey':
    'Every file is parsed to a syntax tree, where the floor looks for some words. Next: a word list that leaves out files in which nothing can be found.',
}

/**
 * Writes everything that was measured to `docs/performance.md`.
 *
 * @param isQuick true where there were fewer runs than usual, which the page then says
 */
export function writeReport(growth: readonly Growth[], isQuick: boolean): void {
  const [processor] = cpus()
  const text = `# Performance

Measured with \`npm run performance\`, which writes this page; \`npm run bench\` measures the same without the growth, and ends with 1 if
something is beyond its limit. Times depend on the machine and the moment, so each is held against a floor that was measured in the same
run, in turn with it: what the machine needs in any case. This page: Node ${process.versions.node}, ${cpus().length} processors
(${processor?.model.trim() ?? 'unknown'})${isQuick ? ', with a fifth of the usual runs (`--quick`)' : ''}.

## Against a floor

A row is "work / floor". A limit is what a ratio may be at most.

${measured.tables.map(tableOf).join('\n')}
## By themselves

| what | measured | limit |
| --- | --- | --- |
${measured.figures
  .map((each) => {
    const limit = each.limit === null ? '' : `${each.atLeast === true ? 'at least ' : ''}${each.limit} ${each.unit}`
    return `| ${each.what} | ${each.found.toFixed(1)} ${each.unit}${isWithin(each) ? '' : ' **beyond**'} | ${limit} |`
  })
  .join('\n')}

## How cost grows

${growth.map(growthOf).join('\n')}
## Beyond their limits

${beyond()}`
  writeFileSync(FILE, text)
}

const ratio = ({ subject, base }: Measured) => subject / base
const isBeyond = (row: Measured) => row.limit !== null && ratio(row) > row.limit

function tableOf([title, rows]: readonly [string, readonly Measured[]]): string {
  const lines = rows.map(
    (row) =>
      `| ${row.what} | ${row.subject.toFixed(2)} | ${row.base.toFixed(2)} | ${ratio(row).toFixed(2)}${isBeyond(row) ? ' **beyond**' : ''} | ${row.limit ?? ''} |`,
  )
  return `### ${title}\n\n| work / floor | ms | floor (ms) | ratio | limit |\n| --- | --- | --- | --- | --- |\n${lines.join('\n')}\n`
}

function growthOf({ title, columns, rows }: Growth): string {
  const line = (cells: readonly (string | number)[]) =>
    `| ${cells.map((each) => each.toLocaleString('en')).join(' | ')} |`
  return `### ${title}\n\n${line(columns)}\n|${' --- |'.repeat(columns.length)}\n${rows.map(line).join('\n')}\n`
}

function beyond(): string {
  const rows = measured.tables.flatMap(([, each]) => each).filter(isBeyond)
  if (rows.length === 0) return 'Nothing, in this run.\n'
  return rows
    .map((row) => {
      const reason = Object.entries(REASONS).find(([begin]) => row.what.toLowerCase().startsWith(begin.toLowerCase()))
      return `- **${row.what}**: ${ratio(row).toFixed(2)}, at most ${row.limit}. ${reason?.[1] ?? 'No reason is known yet.'}\n`
    })
    .join('')
}
