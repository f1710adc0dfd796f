import { isNode, joinedText, plainName, visit } from '../../../../mappa/src/javascript/tree.ts'
import { withChoices } from '../conditionals.ts'
import type { Source, SourceLiteral, WantedValue } from '../source.ts'
import { contextOf } from './context.ts'
import { parseSource, type SyntaxNode } from './parser.ts'

/** Nodes whose texts are no values: names of modules, keys, types. */
const NO_VALUES = new Set([
  'ImportDeclaration',
  'ExportAllDeclaration',
  'TSLiteralType',
  'TSImportType',
  'TSExternalModuleReference',
  'Directive',
  'TSEnumMember',
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
  visit(tree, [], (node, above) => found.visit(node, above))
  const { literals, reads } = found.source(tree)
  return { literals: withChoices(text, literals, { ternary: true }), reads }
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
  visit(node: SyntaxNode, above: readonly SyntaxNode[]): boolean {
    if (NO_VALUES.has(node.type)) return false
    const joined = node.type === 'BinaryExpression' ? joinedText(node) : null
    if (joined !== null) this.#add(node, joined, 'text', above)
    else if (node.type === 'StringLiteral') this.#add(node, String(node.value), 'text', above)
    else if (node.type === 'NumericLiteral') this.#add(node, String(node.value), 'number', above)
    else if (node.type === 'TemplateLiteral')
      for (const [part, cooked, form] of templateParts(node)) this.#add(part, cooked, form, above)
    else this.#reads.push(...readsIn(node, above))
    return joined === null
  }

  source(tree: SyntaxNode): Source {
    const kept = this.#reads.flatMap(({ needed }) => (typeof needed === 'boolean' ? [] : [needed.keptAs]))
    const tested = onlyTested(tree, new Set(kept))
    const reads = this.#reads.map(({ name, at, needed, built }) => ({
      name,
      needed: typeof needed === 'boolean' ? needed : !tested.has(needed.keptAs),
      built,
      ...this.#placeOf(at),
    }))
    return { literals: this.#literals, reads }
  }

  #add(node: SyntaxNode, value: string, form: SourceLiteral['form'], above: readonly SyntaxNode[]): void {
    // Most values in a program are short words; what is shorter than this is no setting but a port.
    if (value.length < (form === 'number' ? 2 : 4) || !this.#isWanted(value, form)) return
    const context = contextOf(node, above)
    if (context === null) return
    this.#literals.push({ ...this.#placeOf(node), value, form, ...context, start: node.start, end: node.end })
  }

  #placeOf({ loc }: SyntaxNode) {
    return { file: this.#file, line: loc.start.line, column: loc.start.column + 1 }
  }
}

/** The fixed parts of a template that are not empty; where there are no others, the template itself. */
function templateParts(node: SyntaxNode): [SyntaxNode, string, 'text' | 'template part'][] {
  const quasis = node.quasis as SyntaxNode[]
  return quasis.flatMap((quasi): [SyntaxNode, string, 'text' | 'template part'][] => {
    const { cooked } = quasi.value as { cooked?: string }
    if (!cooked) return []
    return quasis.length === 1 ? [[node, cooked, 'text']] : [[quasi, cooked, 'template part']]
  })
}

interface ReadNode {
  readonly name: string
  readonly at: SyntaxNode
  /** What the program can't do without; for a name that the value is kept under, what is done with that name decides. */
  readonly needed: boolean | { readonly keptAs: string }
  readonly built: boolean
}

/** `process.env.NAME`, `process.env['NAME']`, `import.meta.env.NAME`, and taking names out of either. */
function readsIn(node: SyntaxNode, above: readonly SyntaxNode[]): readonly ReadNode[] {
  if (node.type === 'MemberExpression' || node.type === 'OptionalMemberExpression')
    return memberRead(node, above.at(-1))
  return node.type === 'VariableDeclarator' ? destructuredReads(node) : []
}

function memberRead(node: SyntaxNode, parent: SyntaxNode | undefined): readonly ReadNode[] {
  const property = node.property as SyntaxNode
  const written = property.type === 'StringLiteral' ? property.value : null
  const name = node.computed ? written : property.name
  const source = typeof name === 'string' ? environmentIn(node.object) : null
  if (typeof name !== 'string' || source === null) return []
  const keptAs = parent?.type === 'VariableDeclarator' && parent.init === node ? plainName(parent.id) : ''
  const needed = keptAs === '' ? !mayBeMissing(node, parent) : { keptAs }
  return [{ name, at: node, needed, built: source === 'built' }]
}

function destructuredReads({ id, init }: SyntaxNode): readonly ReadNode[] {
  const pattern = id as SyntaxNode
  const source = environmentIn(init)
  if (pattern.type !== 'ObjectPattern' || source === null) return []
  return (pattern.properties as SyntaxNode[]).flatMap((property) => {
    const name = plainName(property.key)
    const keptAs = plainName(property.value)
    // With a default, there is no name at this place.
    const needed = keptAs === '' ? false : { keptAs }
    return name === '' ? [] : [{ name, at: property, needed, built: source === 'built' }]
  })
}

/** The names that a program only ever tests. */
function onlyTested(tree: SyntaxNode, names: ReadonlySet<string>): ReadonlySet<string> {
  const tested = new Set<string>()
  const used = new Set<string>()
  if (names.size > 0)
    visit(tree, [], (node, above) => {
      if (node.type !== 'Identifier' || !names.has(String(node.name))) return
      const parent = above.at(-1)
      if (parent === undefined || isDeclared(node, parent, above.at(-2))) return
      ;(mayBeMissing(node, parent) ? tested : used).add(String(node.name))
    })
  return new Set([...tested].filter((name) => !used.has(name)))
}

/** True for a name that is given to something here: a variable, a key, a member. */
function isDeclared(node: SyntaxNode, parent: SyntaxNode, above: SyntaxNode | undefined): boolean {
  if (parent.type === 'VariableDeclarator') return parent.id === node
  if (parent.type === 'ObjectProperty')
    return above?.type === 'ObjectPattern' || (parent.key === node && parent.value !== node && !parent.computed)
  const isMember = parent.type === 'MemberExpression' || parent.type === 'OptionalMemberExpression'
  return isMember && parent.property === node && parent.computed !== true
}

/** True where the code asks whether there is a value, compares it, or has another one for it. */
function mayBeMissing(node: SyntaxNode, parent: SyntaxNode | undefined): boolean {
  switch (parent?.type) {
    case 'LogicalExpression':
    case 'AssignmentExpression':
      return parent.left === node
    case 'BinaryExpression':
      return /^[!=]==?$/.test(String(parent.operator))
    case 'UnaryExpression':
    case 'SwitchStatement':
    case 'OptionalMemberExpression':
      return true
    case 'IfStatement':
    case 'ConditionalExpression':
    case 'WhileStatement':
      return parent.test === node
    case 'CallExpression':
      return (parent.callee as SyntaxNode).name === 'Boolean'
    default:
      return false
  }
}

/** Which environment a node is, if any: that of the process, or the one that a bundler builds in. */
function environmentIn(node: unknown): 'process' | 'built' | null {
  if (!isNode(node) || (node.type !== 'MemberExpression' && node.type !== 'OptionalMemberExpression')) return null
  const object = node.object as SyntaxNode
  if (plainName(node.property) !== 'env') return null
  if (object.type === 'MetaProperty') return 'built'
  const isProcess =
    object.name === 'process' ||
    (object.type === 'MemberExpression' && (object.property as SyntaxNode).name === 'process')
  return isProcess ? 'process' : null
}
