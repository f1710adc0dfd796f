import { type Declaration, type Definition, listOwnStages, resolveStage } from '@mappa/core/definition/definition'
import { hasPlace } from '@mappa/core/definition/former-value'
import { listRuleTexts } from '@mappa/core/definition/rule-words'
import { describeRule } from '@mappa/core/definition/rules-between'
import type { Paint } from '@mappa/core/problems/report'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { wrapText } from '@mappa/core/text/wrap'
import { toFlag } from './flags.ts'

/**
 * The help of a program's command line, made from its definition: every setting that can be given there, in the groups of the
 * definition, and those that can't, because they are secrets.
 *
 * @param program the name of the program
 * @param width how wide a line may be, in characters
 */
export function flagsHelp(
  definition: Definition,
  program: string,
  width: number,
  paint: Pick<Paint, 'strong' | 'faint'>,
): string {
  const { rules } = definition
  const settings = definition.settings.filter(hasPlace)
  const column = Math.min(38, 4 + Math.max(HELP.length, ...settings.map((each) => describeUsage(each).length)))
  const lines = [`Usage: ${program} [flags]`]
  let group: string | null = null
  for (const each of settings) {
    const own = each.keys.slice(0, -1).join('.')
    if (own !== group) lines.push('', paint.strong(own === '' ? 'settings' : own))
    group = own
    lines.push(...entry(each, listOwnStages(definition, [each]), width, column, paint))
  }
  if (rules.length > 0) {
    lines.push('', paint.strong('rules between settings'))
    for (const rule of rules)
      lines.push(
        ...wrapText(escapeInvisible(describeRule(rule, settings)), Math.max(20, width - 2), '', '  ').map(
          (line) => `  ${line}`,
        ),
      )
  }
  const taken = new Set(settings.map(({ keys }) => toFlag(keys)))
  lines.push('')
  // A setting may have either name for itself.
  lines.push(...row(taken.has('help') ? '-h' : HELP, ['Print this.'], width, column))
  if (!taken.has('version')) lines.push(...row('--version', ['Print the version.'], width, column))
  return lines.join('\n')
}

const HELP = '-h, --help'

function describeUsage({ keys, name, kind, secret }: Declaration): string {
  const flag = toFlag(keys)
  if (secret) return name
  return kind.isSwitch === true ? `--[no-]${flag}` : `--${flag} <${kind.name}>`
}

function entry(
  declaration: Declaration,
  stages: readonly string[],
  width: number,
  column: number,
  paint: Pick<Paint, 'faint'>,
): string[] {
  const { name, secret, description } = declaration
  const rules = listRuleTexts(declaration)
  const staged = stages.flatMap((stage) => {
    const own = resolveStage(declaration, stage)
    const different = own === declaration ? [] : listRuleTexts(own).filter((rule) => !rules.includes(rule))
    return different.length === 0 ? [] : [`in ${stage}: ${different.join('; ')}`]
  })
  const where = secret ? 'not a flag, since other users can see command lines' : `variable ${name}`
  const [first = '', ...more] = row(
    describeUsage(declaration),
    [description, [...rules, where].join('; '), ...staged],
    width,
    column,
  )
  const described = wrapText(escapeInvisible(description), width - column, '', '').length
  const plain = first.trim() === describeUsage(declaration) ? described : described - 1
  return [first, ...more.slice(0, plain), ...more.slice(plain).map(paint.faint)]
}

/** A flag on the left and what is said of it on the right; one that is too long has a line of its own. */
function row(usage: string, texts: readonly string[], width: number, column: number): string[] {
  const right = texts.flatMap((text) => wrapText(escapeInvisible(text), Math.max(20, width - column), '', '  '))
  const left = `  ${usage}`
  const indent = ' '.repeat(column)
  if (left.length + 2 > column) return [left, ...right.map((text) => indent + text)]
  return right.map((text, index) => (index === 0 ? left.padEnd(column) : indent) + text)
}
