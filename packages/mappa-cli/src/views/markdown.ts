import { sourceWords, toBadges, valueWords } from './cell-words.ts'
import { code, plain } from './markdown-text.ts'
import type { CellView, Overview, StageView } from './overview.ts'
import type { ProblemView } from './problem.ts'

/** So many problems of a stage are written out; the rest are counted. */
const MOST_LISTED = 20

/**
 * Writes an overview as Markdown (CommonMark, with the tables of GitHub Flavored Markdown), for a comment on a change.
 *
 * @returns text that ends with a line feed, without any secret
 */
export function toMarkdown({ project, stages, groups }: Overview): string {
  const rows = groups.flatMap((group) => group.rows)
  const head = ['Setting', ...stages.map(({ name }) => plain(name))]
  const body = rows.map(({ name, cells }) => [
    code(name),
    ...cells.map((cell, index) => cellText(cell, stages[index]!.name)),
  ])
  const table = [head, head.map(() => '---'), ...body].map((cells) => `| ${cells.join(' | ')} |`)
  return `${[`### Settings of ${plain(project)}`, ...stages.map(stageText), table.join('\n'), FOOTER].join('\n\n')}\n`
}

const FOOTER = '_Secrets are left out; equal ones have the same mark._'

function stageText({ name, errors, notices, problems }: StageView): string {
  const count = errors > 0 ? `${errors} error${errors === 1 ? '' : 's'}` : 'OK'
  const beside = notices > 0 ? `, ${notices} notice${notices === 1 ? '' : 's'}` : ''
  const listed = problems.slice(0, MOST_LISTED).map(problemText)
  if (problems.length > MOST_LISTED) listed.push(`- and ${problems.length - MOST_LISTED} more`)
  return [`**${plain(name)}**: ${count}${beside}`, ...listed].join('\n')
}

function problemText({ severity, message, hint, place }: ProblemView): string {
  return `- ${severity}: ${plain(message)}${place === null ? '' : ` (${code(place)})`} ${plain(hint)}`
}

function cellText(cell: CellView, stage: string): string {
  const value = cell.mark === null ? valueWords(cell) : `secret ${cell.mark}`
  const isValue = cell.state !== 'missing' && cell.state !== 'unset' && cell.mark === null
  const shown = isValue ? code(value) : value
  const words = [
    cell.severity === 'error' ? `❌ ${shown}` : shown,
    ...toBadges(cell, stage, false)
      .filter(({ tone }) => tone !== 'plain')
      .map(({ text }) => plain(text)),
    cell.state === 'inherited' || cell.state === 'default' ? plain(sourceWords(cell)) : '',
  ]
  return words.filter((word) => word !== '').join(', ')
}
