import type { TextEdit } from '@mappa/core/text/edits'
import { environmentName } from '@mappa/source/javascript/context'
import { parseSource, type SyntaxNode } from '@mappa/source/javascript/parser'
import { joinText, visit } from '@mappa/source/javascript/tree'
import { applySuppressions } from '@mappa/source/suppressions'
import { isNested } from '../survey/findings.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'

/** A value to look for in a source file. */
export interface Wanted {
  readonly value: string
  /**
   * Where it counts: `everywhere`, also within longer texts; as an `address`, which is the whole of a text or what a
   * longer one begins with; or only where the survey has `found` it.
   */
  readonly reach: 'everywhere' | 'address' | 'found'
  /** Offsets in this file at which the survey has found it. */
  readonly found: ReadonlySet<number>
  /** The conditional that is replaced in its place, by offsets; none where the value stands alone. */
  readonly within?: { readonly start: number; readonly end: number }
}

/** A place at which a wanted value stands in a source file. */
export interface Occurrence {
  /** From 1. */
  readonly line: number
  readonly column: number
  /** Where the literal begins and ends in the text, quotes included. */
  readonly start: number
  readonly end: number
  /** Which of the wanted values. */
  readonly wanted: Wanted
  readonly form: 'text' | 'number'
  /** Why it can't be replaced; `null` where it can. */
  readonly obstacle: Obstacle | null
  /** The edit that puts an expression in its place. */
  readonly replaceOccurrence: (expression: string) => TextEdit
  /** The variable of the environment that it stands in for, and the edit that replaces the whole of that. */
  readonly fallback: { readonly variable: string; readonly replaceOccurrence: (expression: string) => TextEdit } | null
  /** The edit that replaces the call that makes a number of it, such as `Number('4100')`; a number needs none. */
  readonly asNumber: ((expression: string) => TextEdit) | null
}

/**
 * Finds where values stand in a source file of JavaScript or TypeScript.
 *
 * @returns `null` where the file can't be understood
 */
export function findOccurrences(text: string, file: string, all: readonly Wanted[]): readonly Occurrence[] | null {
  const tree = parseSource(text, file)
  if (tree === null) return null
  const found: Occurrence[] = []
  // A conditional goes as a whole, also where one of its values is wanted for itself.
  const wanted = [...all].sort((a, b) => Number(b.within !== undefined) - Number(a.within !== undefined))
  visit(tree, [], (node, above) => {
    const joined = node.type === 'BinaryExpression' ? joinText(node) : null
    if (joined !== null && wanted.some((each) => isWhole(each, joined, node.start))) {
      add(found, text, node, joined, above, wanted)
      return false
    }
    if (node.type === 'NumericLiteral') {
      const number = wanted.find(({ value, found }) => value === String(node.value) && found.has(node.start))
      if (number !== undefined) found.push(whole(text, node, above, number, 'number'))
    } else if (node.type === 'StringLiteral') add(found, text, node, String(node.value), above, wanted)
    else if (node.type === 'TemplateElement') addTemplate(found, text, node, above, wanted)
    return true
  })
  const wholes = found.filter(({ wanted: { within } }) => within !== undefined)
  const isInside = ({ start, end, wanted: { within } }: Occurrence) =>
    within === undefined && wholes.some((each) => each.start <= start && end <= each.end)
  return applySuppressions(wholes.length === 0 ? found : found.filter((each) => !isInside(each)), text)
}

/** The fixed part of a template; where it is all there is, the template itself. */
function addTemplate(
  found: Occurrence[],
  text: string,
  node: SyntaxNode,
  above: readonly SyntaxNode[],
  wanted: readonly Wanted[],
): void {
  const cooked = (node.value as { cooked?: string | null }).cooked ?? ''
  const template = above.at(-1)!
  const alone = template.type === 'TemplateLiteral' && (template.quasis as unknown[]).length === 1
  if (alone) add(found, text, template, cooked, above.slice(0, -1), wanted)
  else add(found, text, node, cooked, above, wanted)
}

function add(
  found: Occurrence[],
  text: string,
  node: SyntaxNode,
  value: string,
  above: readonly SyntaxNode[],
  wanted: readonly Wanted[],
): void {
  const same = wanted.find((each) => isWhole(each, value, node.start))
  if (same !== undefined) found.push(whole(text, node, above, same, 'text'))
  else {
    const parts = wanted.filter((each) => isPart(each, value, node.start))
    for (const part of withoutOverlaps(parts, value)) found.push(within(text, node, value, above, part))
  }
}

/** The values that stand beside each other in a text: secrets before addresses, and of two of which one holds the other, the longer. */
function withoutOverlaps(parts: readonly Wanted[], text: string): readonly Wanted[] {
  const sorted = [...parts].sort(
    (a, b) => Number(b.reach === 'everywhere') - Number(a.reach === 'everywhere') || b.value.length - a.value.length,
  )
  const taken: { readonly part: Wanted; readonly at: number }[] = []
  for (const part of sorted) {
    const at = text.indexOf(part.value)
    const isFree = taken.every((each) => at + part.value.length <= each.at || each.at + each.part.value.length <= at)
    if (isFree) taken.push({ part, at })
  }
  return taken.map(({ part }) => part)
}

function isWhole({ value, reach, found }: Wanted, text: string, start: number): boolean {
  return value === text && (reach !== 'found' || found.has(start))
}

function isPart({ value: part, reach, found }: Wanted, text: string, start: number): boolean {
  if (reach === 'everywhere') return text.includes(part)
  return (reach === 'address' || found.has(start)) && isNested(text, part)
}

/** A literal that is the value and nothing else. */
function whole(
  text: string,
  node: SyntaxNode,
  above: readonly SyntaxNode[],
  wanted: Wanted,
  form: 'text' | 'number',
): Occurrence {
  const parent = above.at(-1)
  if (wanted.within !== undefined) return toConditional(text, node, above, wanted, form, wanted.within)
  const logical = parent?.type === 'LogicalExpression' && parent.right === node ? parent : null
  const variable = logical === null ? undefined : environmentName(logical.left)
  const call = findNumberCall(variable === undefined ? node : logical!, above.at(variable === undefined ? -1 : -2))
  return {
    ...getPlace(node),
    wanted,
    form,
    obstacle: findObstacle(node, above),
    replaceOccurrence: (expression) => insert(text, node, node.type === 'TemplateElement', parent, expression),
    fallback:
      logical === null || variable === undefined
        ? null
        : { variable, replaceOccurrence: (expression) => insert(text, logical, false, undefined, expression) },
    asNumber: call === null ? null : (expression) => insert(text, call, false, undefined, expression),
  }
}

/** The first value of a conditional, which is replaced as a whole. */
function toConditional(
  text: string,
  node: SyntaxNode,
  above: readonly SyntaxNode[],
  wanted: Wanted,
  form: 'text' | 'number',
  { start, end }: { readonly start: number; readonly end: number },
): Occurrence {
  const range = { ...node, start, end }
  // `process.env.DOME_URL || (isProd ? '...' : '...')`: the variable that the conditional stands in for.
  const logical = above.findLast((each) => each.type === 'LogicalExpression' && each.start < start)
  const right = logical?.right as SyntaxNode | undefined
  const isRight =
    right !== undefined && right.start <= start && right.end >= end && right.end - right.start <= end - start + 2
  const variable = isRight ? environmentName(logical!.left) : undefined
  return {
    ...getPlace(node),
    start,
    end,
    wanted,
    form,
    obstacle: findObstacle(node, above),
    replaceOccurrence: (expression) => insert(text, range, false, undefined, expression),
    fallback:
      variable === undefined
        ? null
        : { variable, replaceOccurrence: (expression) => insert(text, logical!, false, undefined, expression) },
    asNumber: null,
  }
}

/** The call that makes a number of a value, in ten digits. */
function findNumberCall(value: SyntaxNode, parent: SyntaxNode | undefined): SyntaxNode | null {
  if (parent?.type !== 'CallExpression') return null
  const [first, radix] = parent.arguments as SyntaxNode[]
  const { name } = parent.callee as { name?: unknown }
  const isDecimal = radix === undefined || radix.value === 10
  return first === value && isDecimal && /^(Number|parseInt|parseFloat)$/.test(String(name)) ? parent : null
}

/** A literal that holds the value among other text, which stays. */
function within(
  text: string,
  node: SyntaxNode,
  value: string,
  above: readonly SyntaxNode[],
  wanted: Wanted,
): Occurrence {
  const inTemplate = node.type === 'TemplateElement'
  const [from, to] = inTemplate ? [node.start, node.end] : [node.start + 1, node.end - 1]
  const raw = text.slice(from, to)
  const split = (whole: string) =>
    wanted.reach === 'everywhere' || !whole.startsWith(wanted.value)
      ? whole.split(wanted.value)
      : ['', whole.slice(wanted.value.length)]
  const pieces = split(raw)
  const escaped = pieces.length !== split(value).length
  const isTemplate = inTemplate || node.type === 'TemplateLiteral'
  return {
    ...getPlace(node),
    wanted,
    form: 'text',
    obstacle: findObstacle(node, above) ?? (escaped ? makeObstacle('escapes') : null),
    replaceOccurrence(expression) {
      const kept = isTemplate ? pieces : pieces.map((piece) => piece.replace(/`|\$\{/g, '\\$&'))
      const joined = kept.join(`\${${expression}}`)
      if (isTemplate) return { from, to, by: joined }
      return insert(text, node, false, above.at(-1), `\`${joined}\``)
    },
    fallback: null,
    asNumber: null,
  }
}

/** Puts an expression in the place of a node, apart from the words around it. */
function insert(
  text: string,
  { start: from, end: to }: SyntaxNode,
  inTemplate: boolean,
  parent: SyntaxNode | undefined,
  expression: string,
): TextEdit {
  if (inTemplate) return { from, to, by: `\${${expression}}` }
  if (parent?.type === 'JSXAttribute') return { from, to, by: `{${expression}}` }
  const before = /[\w$]/.test(text[from - 1] ?? '') ? ' ' : ''
  const after = /[\w$]/.test(text[to] ?? '') ? ' ' : ''
  return { from, to, by: `${before}${expression}${after}` }
}

/** What keeps a literal from being replaced by an expression; `null` where nothing does. */
function findObstacle(node: SyntaxNode, above: readonly SyntaxNode[]): Obstacle | null {
  const parent = above.at(-1)
  if (parent === undefined) return null
  const [template, tag] = node.type === 'TemplateElement' ? [parent, above.at(-2)] : [node, parent]
  if (tag?.type === 'TaggedTemplateExpression' && tag.quasi === template) return makeObstacle('tag')
  const obstacle = findParentObstacle(node, parent) ?? above.map(findOuterObstacle).find((each) => each !== null)
  if (obstacle !== undefined) return makeObstacle(obstacle)
  return parent.type === 'ExportNamedDeclaration' && parent.source === node ? makeObstacle('module') : null
}

/** What keeps a literal from being replaced, by what stands directly around it. */
function findParentObstacle(node: SyntaxNode, parent: SyntaxNode) {
  const { type } = parent
  if ((type === 'TSAsExpression' || type === 'TSTypeAssertion') && isConst(parent)) return 'as-const'
  if (type === 'VariableDeclarator' && isLiteralType((parent.id as SyntaxNode).typeAnnotation)) return 'literal-type'
  if (type === 'ClassProperty' && isLiteralType(parent.typeAnnotation)) return 'literal-type'
  return /(Property|Method)$/.test(type) && parent.key === node && !parent.computed ? 'member' : undefined
}

/** What keeps every literal within a node from being replaced. */
function findOuterObstacle({ type, callee }: SyntaxNode) {
  if (type === 'TSEnumMember') return 'enum'
  if (/^(Import|Export)(Declaration|AllDeclaration|Attribute|Expression)$/.test(type)) return 'module'
  if (/^TS(.*Type|ExternalModuleReference)$/.test(type)) return 'type'
  const { type: called, name } = (callee ?? {}) as SyntaxNode
  return called === 'Import' || name === 'require' ? 'module' : null
}

/** True for a type that allows some texts alone: one of them, a pattern of them, or several. */
function isLiteralType(node: unknown): boolean {
  const { type, typeAnnotation, types } = (node ?? {}) as SyntaxNode
  if (type === 'TSTypeAnnotation') return isLiteralType(typeAnnotation)
  if (type === 'TSUnionType') return (types as unknown[]).some(isLiteralType)
  return type === 'TSLiteralType' || type === 'TSTemplateLiteralType'
}

function isConst({ typeAnnotation }: SyntaxNode): boolean {
  const { typeName } = (typeAnnotation ?? {}) as { typeName?: { name?: string } }
  return typeName?.name === 'const'
}

function getPlace({ loc, start, end }: SyntaxNode): { line: number; column: number; start: number; end: number } {
  return { line: loc.start.line, column: loc.start.column + 1, start, end }
}
