import type { Node, TemplateElement, TemplateLiteral } from '@babel/types'
import { withChoices } from '../conditionals.ts'
import type { Source, SourceLiteral, WantedValue } from '../source.ts'
import { getContext } from './context.ts'
import { parseSource } from './parser.ts'
import { getPosition, getRange } from './place.ts'
import { findOnlyTested, findReads } from './reads.ts'
import { joinText, visit } from './tree.ts'
import type { ReadNode } from './use.ts'

/** Nodes whose texts are no values: names of modules, keys, types. */
const NO_VALUES = new Set([
  'ImportDeclaration',
  'ExportAllDeclaration',
  'TSLiteralType',
  'TSImportType',
  'TSExternalModuleReference',
  'Directive',
  'ImportAttribute',
])

/**
 * Reads a source file of JavaScript or TypeScript: its fixed values with what they are given to, and its reads of
 * variables.
 *
 * @param isWanted as for every language
 * @returns `null` where the file can't be understood
 */
export function readJavaScript(text: string, file: string, isWanted: WantedValue = () => true): Source | null {
  const tree = parseSource(text, file)
  if (tree === null) return null
  const found = new FoundInFile(file, isWanted)
  visit(tree, (node, above) => found.visit(node, above))
  const { literals, ...others } = found.source(tree)
  return { literals: withChoices(text, literals, { ternary: true }), ...others }
}

/** What a file was found to hold so far. */
class FoundInFile {
  readonly #file: string
  readonly #isWanted: WantedValue
  readonly #literals: SourceLiteral[] = []
  readonly #reads: ReadNode[] = []

  constructor(file: string, isWanted: WantedValue) {
    this.#file = file
    this.#isWanted = isWanted
  }

  /** Takes what a node holds; `false` if nothing below it counts. */
  visit(node: Node, above: readonly Node[]): boolean {
    if (NO_VALUES.has(node.type)) return false
    const joined = node.type === 'BinaryExpression' ? joinText(node) : null
    if (joined !== null) this.#add(node, joined, 'text', above)
    else if (node.type === 'StringLiteral') this.#add(node, node.value, 'text', above)
    else if (node.type === 'NumericLiteral') this.#add(node, String(node.value), 'number', above)
    else if (node.type === 'TemplateLiteral')
      for (const [part, cooked, form] of listTemplateParts(node)) this.#add(part, cooked, form, above)
    else this.#reads.push(...findReads(node, above))
    return joined === null
  }

  source(tree: Node): Source {
    const tested = findOnlyTested(tree, new Set(this.#reads.flatMap(({ keptAs }) => keptAs ?? [])))
    // What the code asks for first, it does without.
    const asked = new Set(this.#reads.flatMap((each) => (each.presence === 'asked' ? each.name : [])))
    const reads = this.#reads.map(({ name, at, needed, presence, keptAs, takenAs, built }) => ({
      name,
      needed: presence === 'demanded' || ((keptAs === null ? needed : !tested.has(keptAs)) && !asked.has(name)),
      ...(takenAs === null ? {} : { takenAs }),
      built,
      ...this.#locate(at),
    }))
    return { literals: this.#literals, reads, fallbacks: this.#reads.flatMap((each) => this.#getFallback(each)) }
  }

  #getFallback({ name, fallback }: ReadNode): readonly SourceLiteral[] {
    if (fallback === null) return []
    const { node, value, form } = fallback
    return [{ ...this.#locate(node), value, form, names: [], callee: null, variable: name, ...getRange(node) }]
  }

  #add(node: Node, value: string, form: SourceLiteral['form'], above: readonly Node[]): void {
    // Most values in a program are short words; what is shorter than this is no setting but a port.
    if (value.length < (form === 'number' ? 2 : 4) || !this.#isWanted(value, form)) return
    const context = getContext(node, above)
    if (context === null) return
    this.#literals.push({ ...this.#locate(node), value, form, ...context, ...getRange(node) })
  }

  #locate(node: Node) {
    return { file: this.#file, ...getPosition(node) }
  }
}

/** A fixed part of a template, or the whole of one that has no others. */
type TemplatePart = [TemplateElement | TemplateLiteral, string, 'text' | 'template part']

/** The fixed parts of a template that are not empty; where there are no others, the template itself. */
function listTemplateParts(node: TemplateLiteral): TemplatePart[] {
  return node.quasis.flatMap((quasi): TemplatePart[] => {
    const { cooked } = quasi.value
    if (!cooked) return []
    return node.quasis.length === 1 ? [[node, cooked, 'text']] : [[quasi, cooked, 'template part']]
  })
}
