import type { Node, ObjectExpression, ObjectProperty, Program } from '@babel/types'
import { parseSource } from '@mappa/source/javascript/parser'
import { getRange, type TextRange } from '@mappa/source/javascript/place'
import { readPlainName, visit } from '@mappa/source/javascript/tree'

/** The source of a definition, parsed. */
export interface ParsedDefinition {
  readonly program: Program
  /** The object that holds the settings. */
  readonly root: ObjectExpression
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
export function findNode(root: Node, keys: readonly string[]): Node | null {
  let node: Node | null = root
  for (const key of keys) node = unwrap(findMember(node, key)?.value)
  return node
}

/** The member of an object that has a key; `undefined` where there is none, or no object. */
export function findMember(object: Node | null, key: string): ObjectProperty | undefined {
  if (object?.type !== 'ObjectExpression') return undefined
  return object.properties.find((each): each is ObjectProperty => getKey(each) === key)
}

/** The tree that is given to `defineSettings`, as it stands or through a constant of the file. */
function toTree(program: Program): ObjectExpression | null {
  const constants = new Map<string, Node | null | undefined>()
  let given: Node | null | undefined
  visit(program, (node) => {
    if (node.type === 'VariableDeclarator') constants.set(readPlainName(node.id), node.init)
    if (node.type === 'CallExpression' && isDefineSettings(node.callee)) given ??= node.arguments[0]
  })
  const first = unwrap(given)
  const found = first?.type === 'Identifier' ? unwrap(constants.get(first.name)) : first
  return found?.type === 'ObjectExpression' ? found : null
}

function isDefineSettings(callee: Node): boolean {
  return readPlainName(callee.type === 'MemberExpression' ? callee.property : callee) === 'defineSettings'
}

/** The object under `settings` in a definition of JSON. */
function parseJsonTree(program: Program): ObjectExpression | null {
  const [statement] = program.body
  const object = unwrap(statement?.type === 'ExpressionStatement' ? statement.expression : null)
  const tree = unwrap(findMember(object, 'settings')?.value)
  return tree?.type === 'ObjectExpression' ? tree : null
}

/** What an expression is, without types and parentheses around it. */
export function unwrap(node: Node | null | undefined): Node | null {
  return node?.type === 'TSSatisfiesExpression' ||
    node?.type === 'TSAsExpression' ||
    node?.type === 'ParenthesizedExpression'
    ? unwrap(node.expression)
    : (node ?? null)
}

/** Where a node of a definition stands in its text, of which the tree may be shifted. */
export function getSourceRange(node: Node, { shift }: Pick<ParsedDefinition, 'shift'>): TextRange {
  const { start, end } = getRange(node)
  return { start: start - shift, end: end - shift }
}

/** The key of a member of an object; `null` where it is worked out. */
export function getKey(member: Node): string | null {
  return member.type === 'ObjectProperty' && !member.computed ? readPlainName(member.key) : null
}

/** Where a setting stands in the source of its definition. */
export interface SettingPlace {
  /** The key of the setting. */
  readonly key: TextRange
  /** The variable name, where the definition gives one: without its quotes. */
  readonly name: TextRange | null
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
  const { json, root } = parsed
  return (keys) => {
    const member = findMember(findNode(root, keys.slice(0, -1)), keys.at(-1)!)
    if (member === undefined) return null
    const value = unwrap(member.value)
    const options = json ? value : unwrap(value?.type === 'CallExpression' ? value.arguments[1] : null)
    const name = findMember(options, 'name')
    return { key: inside(member.key, parsed), name: name === undefined ? null : inside(name.value, parsed) }
  }
}

/** Where a word stands, without its quotes. */
function inside(node: Node, parsed: ParsedDefinition): TextRange {
  const { start, end } = getSourceRange(node, parsed)
  return node.type === 'Identifier' ? { start, end } : { start: start + 1, end: end - 1 }
}
