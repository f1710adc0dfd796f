import { parseSource, type SyntaxNode } from '@mappa/source/javascript/parser'
import { readPlainName, visit } from '@mappa/source/javascript/tree'

/** The source of a definition, parsed. */
export interface ParsedDefinition {
  readonly program: SyntaxNode
  /** The object that holds the settings. */
  readonly root: SyntaxNode
  readonly json: boolean
  /** How much further to the right offsets are in the tree than in the text. */
  readonly shift: number
}

/** Parses the source of a definition; `null` where its settings can't be found in it. */
export function parseDefinition(text: string, file: string): ParsedDefinition | null {
  const json = file.endsWith('.json')
  // JSON is an expression of JavaScript (ECMA-262 since 2019).
  const program = parseSource(json ? `(${text.replace(/^\ufeff/, ' ')}\n)` : text, file.replace(/\.json$/, '.js'))
  if (program === null) return null
  const root = json ? parseJsonTree(program) : toTree(program)
  return root === null ? null : { program, root, json, shift: json ? 1 : 0 }
}

/** What stands at a path of an object. */
export function findNode(root: SyntaxNode, keys: readonly string[]): SyntaxNode | null {
  let node: SyntaxNode | null = root
  for (const key of keys) {
    const members = (node?.properties ?? []) as readonly SyntaxNode[]
    node = unwrap(members.find((each) => getKey(each) === key)?.value)
  }
  return node
}

/** The tree that is given to `defineSettings`, as it stands or through a constant of the file. */
function toTree(program: SyntaxNode): SyntaxNode | null {
  const constants = new Map<string, unknown>()
  let given: unknown
  visit(program, [], (node) => {
    if (node.type === 'VariableDeclarator') constants.set(String((node.id as { name?: unknown }).name), node.init)
    if (node.type !== 'CallExpression') return
    const { name, property } = node.callee as { name?: string; property?: { name?: string } }
    if ((name ?? property?.name) === 'defineSettings') given ??= (node.arguments as unknown[])[0]
  })
  const first = unwrap(given)
  const found = first?.type === 'Identifier' ? unwrap(constants.get(String(first.name))) : first
  return found?.type === 'ObjectExpression' ? found : null
}

/** The object under `settings` in a definition of JSON. */
function parseJsonTree(program: SyntaxNode): SyntaxNode | null {
  const [statement] = program.body as readonly SyntaxNode[]
  const object = unwrap(statement?.expression)
  if (object?.type !== 'ObjectExpression') return null
  const settings = (object.properties as SyntaxNode[]).find((each) => getKey(each) === 'settings')
  const tree = unwrap(settings?.value)
  return tree?.type === 'ObjectExpression' ? tree : null
}

/** What an expression is, without types and parentheses around it. */
export function unwrap(node: unknown): SyntaxNode | null {
  const inner = (node ?? null) as SyntaxNode | null
  return inner?.type === 'TSSatisfiesExpression' ||
    inner?.type === 'TSAsExpression' ||
    inner?.type === 'ParenthesizedExpression'
    ? unwrap(inner.expression)
    : inner
}

/** The key of a member of an object; `null` where it is worked out. */
export function getKey(member: SyntaxNode): string | null {
  return member.type === 'ObjectProperty' && member.computed !== true ? readPlainName(member.key) : null
}

/** A piece of a text: offsets from 0, the second one behind its last character. */
export interface Piece {
  readonly start: number
  readonly end: number
}

/** Where a setting stands in the source of its definition. */
export interface SettingPlace {
  /** The key of the setting. */
  readonly key: Piece
  /** The variable name, where the definition gives one: without its quotes. */
  readonly name: Piece | null
}

/**
 * Finds settings in the source of a definition.
 *
 * @returns a function that takes the keys of a path, and gives `null` for a setting that does not stand there as it is, such as one that
 * comes from another module
 */
export function makeSettingFinder(text: string, file: string): (keys: readonly string[]) => SettingPlace | null {
  const parsed = parseDefinition(text, file)
  if (parsed === null) return () => null
  const { json, root, shift } = parsed
  return (keys) => {
    const group = keys.length === 1 ? root : findNode(root, keys.slice(0, -1))
    const members = (group?.properties ?? []) as readonly SyntaxNode[]
    const member = members.find((each) => getKey(each) === keys.at(-1))
    if (member === undefined) return null
    const value = unwrap(member.value)
    const options = json ? value : unwrap(((value?.arguments ?? []) as SyntaxNode[])[1])
    const name = ((options?.properties ?? []) as SyntaxNode[]).find((each) => getKey(each) === 'name')
    return {
      key: inside(member.key as SyntaxNode, shift),
      name: name === undefined ? null : inside(name.value as SyntaxNode, shift),
    }
  }
}

/** Where a word stands, without its quotes. */
function inside({ type, start, end }: SyntaxNode, shift: number): Piece {
  const quote = type === 'Identifier' ? 0 : 1
  return { start: start - shift + quote, end: end - shift - quote }
}
