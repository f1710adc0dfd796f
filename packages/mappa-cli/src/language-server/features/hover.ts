import { listOwnStages, resolveStage } from '@mappa/core/definition/definition'
import { describeRules } from '@mappa/core/definition/rule-words'
import type { Resolution } from '@mappa/core/resolve/resolve'
import type { Hover, Position } from 'vscode-languageserver'
import { sourceWords, valueWords } from '../../views/cell-words.ts'
import { code, plain } from '../../views/markdown-text.ts'
import { type RowView, toOverview } from '../../views/overview.ts'
import type { EditorProject } from '../editor-project.ts'
import { findSetting } from '../setting-at.ts'

/** What a setting is, its rules, and which layer wins in which stage. Secrets are masked. */
export function findHover(project: EditorProject, file: string, text: string, position: Position): Hover | null {
  const found = findSetting(project, file, text, position)
  if (found === null) return null
  return { contents: { kind: 'markdown', value: getDescription(project, found.setting) }, range: found.range }
}

/** The description of a setting in Markdown. */
export function getDescription(project: EditorProject, path: string): string {
  const { groups, stages } = toOverview(
    project.stages.map((stage) => narrowResolution(stage, path)),
    { project: '' },
  )
  const row = groups[0]?.rows[0]
  if (row === undefined) return ''
  const head = [`**${plain(row.name)}**`, code(row.path), plain(row.kind), row.secret ? 'secret' : '']
  const rows = row.cells.map((cell, index) => `| ${plain(stages[index]!.name)} | ${toCell(cell)} | ${getPlace(cell)} |`)
  return [
    head.filter((each) => each !== '').join(' · '),
    plain(row.description),
    listRules(project, path),
    ['| Stage | Value | From |', '| --- | --- | --- |', ...rows].join('\n'),
  ].join('\n\n')
}

/** A stage as if the definition had one setting: the others need not be drawn. */
function narrowResolution(stage: Resolution, path: string): Resolution {
  return { ...stage, settings: stage.settings.filter(({ declaration }) => declaration.path === path) }
}

const toCell = (cell: RowView['cells'][number]): string => {
  const words = valueWords(cell)
  const isValue = cell.state !== 'missing' && cell.state !== 'unset' && cell.mark === null
  const shown = words.length > 60 ? `${words.slice(0, 59)}…` : words
  return isValue ? code(shown) : plain(words)
}

const getPlace = (cell: RowView['cells'][number]): string => plain(sourceWords(cell))

/** The rules that hold in all stages, and those of single ones. */
function listRules({ definition }: EditorProject, path: string): string {
  const declaration = definition.settings.find((each) => each.path === path)!
  const common = describeRules(declaration).map(({ text }) => text)
  const own = listOwnStages(definition, [declaration]).flatMap((stage) => {
    const more = describeRules(resolveStage(declaration, stage)).filter(({ text }) => !common.includes(text))
    return more.length === 0 ? [] : [`in ${stage}: ${more.map(({ text }) => text).join(', ')}`]
  })
  return [...common, ...own].map((text) => `- ${plain(text)}`).join('\n')
}
