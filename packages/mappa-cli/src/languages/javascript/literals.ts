import { parseSource, type SyntaxNode } from '../../../../mappa/src/javascript/parser.ts'
import { isNode, joinedText, plainName, visit } from '../../../../mappa/src/javascript/tree.ts'
import type { Source, SourceLiteral, SourceRead } from '../source.ts'
import { contextOf } from './context.ts'

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
 * @returns `null` where the file can't be understood
 */
export function readJavaScript(text: string, file: string): Source | null {
  const tree = parseSource(text, file)
  if (tree === null) return null
  const literals: SourceLiteral[] = []
  const reads: (Omit<SourceRead, 'needed'> & Pick<ReadNode, 'needed'>)[] = []
  visit(tree, [], (node, above) => {
    if (NO_VALUES.has(node.type)) return false
    const joined = node.type === 'BinaryExpression' ? joinedText(node) : null
    if (joined !== null) {
      add(node, joined, 'text', above)
      return false
    }
    if (node.type === 'StringLiteral') {
      add(node, String(node.value), 'text', above)
    } else if (node.type === 'NumericLiteral') {
      add(node, String(node.value), 'number', above)
    } else if (node.type === 'TemplateLiteral') {
      const quasis = node.quasis as SyntaxNode[]
      for (const quasi of quasis) {
        const { cooked } = quasi.value as { cooked?: string }
        if (cooked)
          add(quasis.length === 1 ? node : quasi, cooked, quasis.length === 1 ? 'text' : 'template part', above)
      }
    } else {
      for (const { name, at, needed, built } of readsIn(node, above)) {
        const { line, column } = at.loc.start
        reads.push({ name, needed, built, file, line, column: column + 1 })
      }
    }
    return true
  })
  const kept = reads.flatMap(({ needed }) => (typeof needed === 'boolean' ? [] : [needed.keptAs]))
  const tested = onlyTested(tree, new Set(kept))
  return {
    literals,
    reads: reads.map(({ needed, ...read }) => ({
      ...read,
      needed: typeof needed === 'boolean' ? needed : !tested.has(needed.keptAs),
    })),
  }

  function add(node: SyntaxNode, value: string, form: SourceLiteral['form'], above: readonly SyntaxNode[]): void {
    // Most values in a program are short words; what is shorter than this is no setting but a port.
    if (value.length < (form === 'number' ? 2 : 4)) return
    const { line, column } = node.loc.start
    const context = contextOf(node, above)
    if (context === null) return
    literals.push({ file, line, column: column + 1, value, form, ...context, start: node.start, end: node.end })
  }
}

interface ReadNode {
  readonly name: string
  readonly at: SyntaxNode
  /** What the program can't do without; for a name that the value is kept under, what is done with that name decides. */
  readonly needed: boolean | { readonly keptAs: string }
  readonly built: boolean
}

/** `process.env.NAME`, `process.env['NAME']`, `import.meta.env.NAME`, and taking names out of either. */
function* readsIn(node: SyntaxNode, above: readonly SyntaxNode[]): Generator<ReadNode> {
  if (node.type === 'MemberExpression' || node.type === 'OptionalMemberExpression') {
    const property = node.property as SyntaxNode
    const name = node.computed ? (property.type === 'StringLiteral' ? property.value : null) : property.name
    const source = typeof name === 'string' ? environmentIn(node.object) : null
    if (typeof name !== 'string' || source === null) return
    const parent = above.at(-1)
    const keptAs = parent?.type === 'VariableDeclarator' && parent.init === node ? plainName(parent.id) : ''
    yield {
      name,
      at: node,
      needed: keptAs === '' ? !mayBeMissing(node, parent) : { keptAs },
      built: source === 'built',
    }
  } else if (node.type === 'VariableDeclarator') {
    const pattern = node.id as SyntaxNode
    const source = environmentIn(node.init)
    if (pattern.type !== 'ObjectPattern' || source === null) return
    for (const property of pattern.properties as SyntaxNode[]) {
      const name = plainName(property.key)
      const keptAs = plainName(property.value)
      // With a default, there is no name at this place.
      if (name !== '')
        yield { name, at: property, needed: keptAs === '' ? false : { keptAs }, built: source === 'built' }
    }
  }
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
