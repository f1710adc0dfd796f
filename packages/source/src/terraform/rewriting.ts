import type { TextEdit } from '@mappa/core/text/edits'
import type { FileSurroundings, ReadVariable } from '../rewriting.ts'
import type { SourceLiteral } from '../source.ts'
import { rewriteText, type TextPlace } from '../text/rewriting.ts'
import { endOfLine, startOfLine } from '../tree/lines.ts'
import { type Block, findBlocks } from './blocks.ts'

/** What Terraform looks for in its environment begins so; the name of the variable follows. */
const PREFIX = 'TF_VAR_'

/** How Terraform reads its environment: by variables, which it is told to have. */
export function terraformRewriting(literals: (text: string, file: string) => readonly SourceLiteral[]) {
  return rewriteText({
    canRead: (file) => /\.tf$/.test(file),
    literals,
    obstacle: ({ text, start }) => {
      const before = text.slice(startOfLine(text, start), start)
      if (/^\s*(?:#|\/\/)/.test(before)) return 'not-written'
      return isConstant(before, findBlocks(text, start)) ? 'constant' : null
    },
    replace: (variable, place) => (variable.name.startsWith(PREFIX) ? replace(variable, place) : null),
    complete: (_text, edits) => edits.filter((each, at) => edits.findIndex((one) => isSame(one, each)) === at),
    start: () => 'terraform plan',
  })
}

const isSame = (a: TextEdit, b: TextEdit) => a.from === b.from && a.to === b.to && a.by === b.by

/**
 * True where Terraform takes no variable: in what it reads before it has any, such as the backend that keeps its state, and in the
 * declaration of a variable, but for its default.
 */
function isConstant(before: string, blocks: readonly Block[]): boolean {
  if (/^\s*(?:source|version|alias)\s*=/.test(before)) return true
  if (blocks.some(({ kind }) => kind === 'terraform' || kind === 'backend' || kind === 'lifecycle')) return true
  return blocks.some(({ kind }) => kind === 'variable') && !/^\s*default\s*=/.test(before)
}

/**
 * True where a variable may be marked as sensitive: Terraform then refuses each output that is not marked, whatever way the value has
 * taken there.
 */
function mayBeSensitive(text: string, { siblings }: FileSurroundings): boolean {
  return [text, ...siblings()].every((each) =>
    [...each.matchAll(/^output[ \t]+"[^"]*"[ \t]*\{/gm)].every(({ index }) => {
      const block = each.slice(index).split(/^\}/m, 1)[0]!
      return /^\s*sensitive\s*=\s*true\b/m.test(block)
    }),
  )
}

function replace(
  { name, secret: isSecret, form }: ReadVariable,
  { text, start, end, literal, isWhole, around }: TextPlace,
): readonly TextEdit[] {
  const secret = isSecret && mayBeSensitive(text, around)
  const own = name.slice(PREFIX.length)
  const line = startOfLine(text, start)
  // The default of a variable goes: its value comes from the environment.
  if (isWhole && literal.variable === name && isDefault(text, line, own)) {
    const isMarked = new RegExp(`variable\\s+"${own}"\\s*\\{[^}]*\\bsensitive\\b`).test(text)
    const margin = /^[ \t]*/.exec(text.slice(line))![0]
    const last = endOfLine(text, end)
    const width = text.indexOf('=', line) - line - margin.length
    return [
      secret && !isMarked
        ? { from: line, to: last, by: `${margin}${'sensitive'.padEnd(Math.max(width, 10))}= true` }
        : { from: line, to: last + 1, by: '' },
    ]
  }
  const range = isWhole ? { from: literal.start, to: literal.end } : { from: start, to: end }
  const edit = { ...range, by: isWhole ? `var.${own}` : `\${var.${own}}` }
  if (new RegExp(`variable\\s+"${own}"`).test(text)) return [edit]
  const type = form === 'number' ? 'number' : 'string'
  const members = secret ? `  type      = ${type}\n  sensitive = true\n` : `  type = ${type}\n`
  const declared = `${text.endsWith('\n') ? '' : '\n'}\nvariable "${own}" {\n${members}}\n`
  return [edit, { from: text.length, to: text.length, by: declared }]
}

function isDefault(text: string, line: number, name: string): boolean {
  const before = text.slice(0, line)
  const block = before.lastIndexOf(`variable "${name}"`)
  return block >= 0 && !/^\}/m.test(before.slice(block)) && /^\s*default\s*=/.test(text.slice(line))
}
