import { type Declaration, type Definition, inStage } from '../../core/definition/definition.ts'
import { rulesInWords } from '../../core/derive/words.ts'
import type { Paint } from '../../core/problems/report.ts'
import { fold } from '../../core/text/fold.ts'
import { visible } from '../../core/text/visible.ts'
import { flagOf } from './flags.ts'

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
  const lines = [`Usage: ${program} [flags]`]
  let group: string | null = null
  for (const each of definition.settings) {
    const own = each.keys.slice(0, -1).join('.')
    if (own !== group) lines.push('', paint.strong(own === '' ? 'settings' : own))
    group = own
    lines.push(...entry(each, definition.stages, width, paint))
  }
  lines.push('', '  --help', '      Print this.', '  --version', '      Print the version.')
  return lines.join('\n')
}

function entry(
  declaration: Declaration,
  stages: readonly string[],
  width: number,
  paint: Pick<Paint, 'faint'>,
): string[] {
  const { keys, name, kind, secret, description } = declaration
  const flag = flagOf(keys)
  const usage = secret ? name : kind.name === 'boolean' ? `--${flag}, --no-${flag}` : `--${flag} <${kind.name}>`
  const rules = rulesInWords(declaration).join('; ')
  const staged = stages.flatMap((stage) => {
    const own = inStage(declaration, stage)
    return own === declaration ? [] : [`in ${stage}: ${rulesInWords(own).join('; ')}`]
  })
  const facts = [rules, secret ? 'not as a flag: other users can list those' : `variable ${name}`, ...staged]
  return [
    `  ${usage}`,
    ...fold(visible(description), width, '      ', '      '),
    ...facts.flatMap((fact) => fold(visible(fact), width, '      ', '        ')).map(paint.faint),
  ]
}
