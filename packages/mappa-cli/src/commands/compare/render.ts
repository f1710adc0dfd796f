import { describeOriginLabel } from '@mappa/core/layers/layer'
import { hasErrors, type Problem } from '@mappa/core/problems/problem'
import { type Cell, type Comparison, type Filter, hasProblem, type Row } from '../../analysis/compare/table.ts'
import { columns, fitted } from '../../terminal/columns.ts'
import { printJson, problemAsData } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'

/** In a log nobody knows the width, and this fits nearly all. */
const WIDTH = 80
/** A column of values is never made narrower than this, in characters; there are fewer of them beside each other then. */
const NARROWEST = 11

/** More stages or files than this are counted above the table, not listed. */
const MOST_NAMED = 4

/** A sign, and what it says, for the line below the table. */
const SIGNS = [
  ['=', 'same'],
  ['≠', 'different'],
  ['✗', 'missing or invalid'],
  ['↑', 'inherited'],
  ['°', 'default'],
  ['–', 'not set'],
] as const

/**
 * Prints stages or files side by side.
 *
 * @param whole everything that was compared
 * @param shown what of it is to be seen
 */
export function printComparison(
  whole: Comparison,
  shown: Comparison,
  problems: readonly Problem[],
  { json, only }: { json?: boolean; only?: Filter },
): void {
  if (json) {
    printJson({
      columns: shown.columns,
      settings: shown.rows.map((row) => rowAsData(row, shown.columns)),
      problems: problems.map(problemAsData),
    })
    return
  }
  const { paint, print } = out
  print(paint.strong(toTitle(whole)))
  print(`${describeCounts(whole)}${only === undefined ? '' : paint.faint(` (rows with --only ${only})`)}\n`)
  const blocks = shown.rows.length === 0 ? [] : listBlocks(shown, out.width ?? WIDTH)
  for (const block of blocks) print(`${block}\n`)
  if (blocks.length === 0) print(`No rows${only === undefined ? '' : ` with --only ${only}`}.\n`)
  const used = blocks.join('')
  const legend = SIGNS.filter(([sign]) => used.includes(sign)).map(([sign, says]) => `${sign} ${says}`)
  if (legend.length > 0) print(paint.faint(legend.join('  ')))
  if (hasErrors(problems)) print(chooseHint(problems))
}

function toTitle({ columns: names, rows }: Comparison): string {
  const listed = names.length > MOST_NAMED ? `${names.length} columns` : names.join(', ')
  return `${rows.length} setting${rows.length === 1 ? '' : 's'} in ${listed}`
}

function describeCounts({ rows }: Comparison): string {
  const count = (relation: Row['relation']) => rows.filter((each) => each.relation === relation).length
  const wrong = rows.filter((each) => each.cells.some(hasProblem)).length
  const parts = [`${count('same')} the same`, `${count('different')} different`]
  if (count('unset') > 0) parts.push(`${count('unset')} not set`)
  if (wrong > 0) parts.push(`${wrong} with problems`)
  return parts.join(', ')
}

function chooseHint(problems: readonly Problem[]): string {
  const ofStages = problems.some(({ stage }) => stage !== null)
  return ofStages
    ? 'mappa check --all says what is missing or invalid, and what to do about it.'
    : `Lines that can't be read: ${problems
        .filter(({ severity }) => severity === 'error')
        .map(({ file, line }) => `${file}:${line}`)
        .join(', ')}.`
}

/** The table, in several ones where the columns do not fit beside each other. */
function listBlocks({ columns: names, rows }: Comparison, width: number): string[] {
  const widestName = Math.max(...rows.map(({ name }) => name.length))
  // The sign, the name, and two blanks before each column.
  const room = width - 3 - Math.min(widestName, Math.floor(width / 2))
  const beside = Math.max(1, Math.min(names.length, Math.floor(room / (NARROWEST + 2))))
  const count = Math.ceil(names.length / beside)
  const size = Math.ceil(names.length / count)
  return Array.from({ length: count }, (_, index) => {
    const from = index * size
    const head = ['', 'NAME', ...names.slice(from, from + size).map(getHead)]
    const body = rows.map((row) => [toSign(row), row.name, ...row.cells.slice(from, from + size).map(getText)])
    const [first = [], ...rest] = fitted([head, ...body], width, [1, Math.min(widestName, Math.floor(width / 2))])
    const { paint } = out
    const painted = rest.map((cells, at) => {
      const row = rows[at]!
      const [sign = '', name = '', ...values] = cells
      const paintCell = (text: string, column: number) => choosePaint(row.cells[from + column]!)(text)
      return [signPaint(row)(sign), paint.strong(name), ...values.map(paintCell)]
    })
    return columns([first.map(paint.faint), ...painted])
  })
}

/** A stage as the head of a column; a file keeps its name. */
function getHead(name: string): string {
  return name.includes('.') ? name : name.toUpperCase()
}

function toSign({ relation, cells }: Row): string {
  if (cells.some(hasProblem)) return '✗'
  return { same: '=', different: '≠', unset: '–' }[relation]
}

function signPaint({ relation, cells }: Row): (text: string) => string {
  const { paint } = out
  if (cells.some(hasProblem)) return paint.error
  return relation === 'different' ? paint.notice : paint.faint
}

function choosePaint(cell: Cell): (text: string) => string {
  const { paint } = out
  if (hasProblem(cell)) return paint.error
  return cell.state === 'set' ? (text) => text : paint.faint
}

function getText(cell: Cell): string {
  const { state, shown, mark, problems } = cell
  const value = mark === null ? (shown ?? '') : `secret ${mark}`
  const texts: Readonly<Record<Cell['state'], string>> = {
    set: value,
    inherited: `${value} ↑`,
    default: `${value} °`,
    unset: '–',
    missing: '✗ missing',
    invalid: `✗ ${value || 'invalid'}`,
  }
  return problems.length > 0 && !texts[state].startsWith('✗') ? `✗ ${texts[state]}` : texts[state]
}

function rowAsData({ name, path, secret, relation, cells }: Row, names: readonly string[]) {
  return {
    path,
    name,
    secret,
    relation,
    values: cells.map(({ state, shown, mark, origin, problems }, index) => ({
      column: names[index],
      state,
      shown,
      mark,
      origin,
      from: origin === null ? null : describeOriginLabel(origin, origin.layer),
      problems,
    })),
  }
}
