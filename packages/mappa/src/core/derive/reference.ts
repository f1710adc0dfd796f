import { type Declaration, type Definition, inStage } from '../definition/definition.ts'
import { rulesInWords } from '../definition/rule-words.ts'
import { escapeInvisible } from '../text/escape-invisible.ts'

/**
 * The reference of a definition, in Markdown: one table for each group, with what differs from stage to stage in a column for
 * each. The same definition always gives the same text.
 *
 * @returns the text of a Markdown file
 */
export function referenceFile({ settings, stages }: Definition): string {
  const groups = new Map<string, Declaration[]>()
  for (const each of settings) {
    const group = each.keys.slice(0, -1).join('.')
    groups.set(group, [...(groups.get(group) ?? []), each])
  }
  const lines = [
    '# Settings',
    '',
    'Every setting of this project. Made by `mappa write reference` from the definition: change that, not this.',
  ]
  for (const [group, members] of groups) {
    if (group !== '') lines.push('', `## ${group}`)
    // A column for a stage only where one of the group has rules of its own in it.
    const own = stages.filter((stage) => members.some((each) => inStage(each, stage) !== each))
    lines.push(
      '',
      ...table(
        ['variable', 'in code', 'what it is', 'rules', ...own],
        members.map((each) => row(each, own)),
      ),
    )
  }
  return `${lines.join('\n')}\n`
}

function row(declaration: Declaration, stages: readonly string[]): string[] {
  const { name, path, description, formerly, options } = declaration
  const former = formerly.length === 0 ? [] : [`formerly ${formerly.map(code).join(', ')}`]
  const { deprecated: old = false } = options
  const instead = typeof old === 'string' ? `: ${old}` : ''
  const deprecated = old === false ? [] : [`deprecated${instead}`]
  const said = [description.replace(/\s+/g, ' '), ...deprecated, ...former].join('; ')
  const base = rulesInWords(declaration)
  const staged = stages.map((stage) => {
    const own = inStage(declaration, stage)
    return own === declaration
      ? ''
      : rulesInWords(own)
          .filter((rule) => !base.includes(rule))
          .join('; ')
  })
  return [code(name), code(path), said, base.join('; '), ...staged]
}

/** A table whose columns stand under each other in the source too. */
function table(head: readonly string[], rows: readonly (readonly string[])[]): string[] {
  const cells = [head, ...rows].map((each) => each.map(cell))
  const widths = head.map((_, column) => Math.max(3, ...cells.map((each) => [...each[column]!].length)))
  const line = (each: readonly string[]) =>
    `| ${each.map((text, column) => text + ' '.repeat(widths[column]! - [...text].length)).join(' | ')} |`
  return [line(cells[0]!), `| ${widths.map((width) => '-'.repeat(width)).join(' | ')} |`, ...cells.slice(1).map(line)]
}

function cell(text: string): string {
  return escapeInvisible(text).replace(/[|\\<]/g, '\\$&')
}

function code(text: string): string {
  return `\`${text}\``
}
