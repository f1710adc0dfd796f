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
    'Node opens six files of the library and compiles 130 kB. Next: a build of the start alone, without what only commands need.',
  resolve:
    'Each value keeps its origin, its candidates and its checks, where the floor fills an object. Next: candidates that are made when somebody asks.',
  filling:
    'Each template is expanded, and written beside its output before it takes its place, where the floor copies it. Next: several outputs are written at once.',
  'mappa check':
    'The command starts from one file of 280 kB, where the floor is an empty program. Next: a smaller file for what every command needs.',
  'mappa compare':
    'The stages are read and resolved one by one, where the floor starts Node. Next: what is the same in all stages is resolved once.',
  building:
    'The plugin is loaded (15 ms), checks the settings, and searches what was built. Next: it reads the configuration and the settings at once.',
  'starting the development':
    'The plugin is loaded (15 ms) and checks the settings before the server listens. Next: it reads the configuration and the settings at once.',
  'mappa survey of a large tree, again':
    'The command starts in 120 ms, asks each file for its times, and judges again what was found before. Next: the judgement is remembered as well.',
  'the same for the first time':
    'Every file that may hold a finding is parsed to a syntax tree, where the floor looks for some words. Next: fewer files pass the filter by words.',
  'searching sources':
    'Each byte is looked at three times: for quotes and escapes, for digits, and for what was found in digits. Next: one look for the first two.',
  'mappa guard --history':
    'git lists and hands out all objects, which takes half of it. Next: objects are read while git still lists others.',
  'mappa survey of this project':
    'Each file is asked for its times, and what was found in it before is judged again. Next: the judgement is remembered as well.',
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
  const rows = measured.tables
    .flatMap(([, each]) => each)
    .filter(isBeyond)
    .map((row) => ({ what: row.what, found: ratio(row).toFixed(2), limit: String(row.limit) }))
  const figures = measured.figures
    .filter((each) => !isWithin(each))
    .map(({ what, found, unit, limit }) => ({ what, found: `${found.toFixed(1)} ${unit}`, limit: `${limit} ${unit}` }))
  const all = [...rows, ...figures]
  if (all.length === 0) return 'Nothing, in this run.\n'
  return all
    .map(({ what, found, limit }) => `- **${what}**: ${found}; the limit is ${limit}. ${reasonOf(what)}\n`)
    .join('')
}

function reasonOf(what: string): string {
  const found = Object.entries(REASONS).find(([begin]) => what.startsWith(begin))
  return found?.[1] ?? 'No reason is known yet.'
}
