import { type Declaration, type Definition, inStage } from '../definition/definition.ts'
import { rulesInWords } from '../definition/rule-words.ts'
import { quoteValue } from '../envfile/quote.ts'
import { escapeInvisible } from '../text/escape-invisible.ts'
import { placeholderOf } from '../text/placeholder.ts'

/**
 * The example file of a definition: every setting with its description and rules, in the order and the groups of the
 * definition. What is required has a placeholder that no check lets pass; what has a default is there as a comment.
 * The same definition always gives the same text.
 *
 * @returns the text of `.env.example`
 */
export function exampleFile({ settings, stages }: Definition): string {
  const lines = [
    '# Every setting of this project. Made by mappa write example from the definition: change that, not this.',
    '# Copy what you need into .env.<stage>, and secrets into .env.<stage>.local, which git ignores.',
  ]
  let group: string | null = null
  for (const each of settings) {
    const own = each.keys.slice(0, -1).join('.')
    if (own !== group && own !== '') lines.push('', `# == ${own} ==`)
    group = own
    lines.push('', ...exampleEntry(each, stages))
  }
  return `${lines.join('\n')}\n`
}

/** The lines of one setting in the example file. */
export function exampleEntry(declaration: Declaration, stages: readonly string[]): string[] {
  const { name, kind, optional, default: value } = declaration
  const description = declaration.description.split(/\r?\n/).map((line) => `# ${escapeInvisible(line.trim())}`)
  const base = rulesInWords(declaration)
  const staged = stages.flatMap((stage) => {
    const own = inStage(declaration, stage)
    const different = own === declaration ? [] : rulesInWords(own).filter((rule) => !base.includes(rule))
    return different.length === 0 ? [] : [`# (in ${stage}: ${escapeInvisible(different.join('; '))})`]
  })
  // A default of several lines must not leave its comment.
  const rules = `# (${escapeInvisible(base.join('; '))})`
  const needed = value === undefined && !optional
  const entry = `${name}=${quoteValue(value === undefined ? placeholderOf(name) : kind.toText(value, declaration.options))}`
  return [...description, rules, ...staged, ...(needed ? [entry] : entry.split('\n').map((line) => `#${line}`))]
}
