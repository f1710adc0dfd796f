import type { TextEdit } from '@mappa/core/text/edits'
import { types } from '../tree/grammar.ts'
import { endOfLine, findIndentation, startOfLine } from '../tree/lines.ts'
import { findAncestor, findSibling, findTop, type TreeNode, walkNodes } from '../tree/node.ts'
import type { ChangedLiteral, TreeRewriting } from '../tree/rewriting.ts'

type Read = Parameters<NonNullable<TreeRewriting['declare']>>[1]

/** How PHP reads its environment. */
export const phpRewriting: TreeRewriting = {
  read({ name, form }, literal, quote) {
    const read = `getenv(${quote}${name}${quote})`
    return form === 'number' && !isConverted(literal) ? `(int) ${read}` : read
  },
  join: ' . ',
  within: () => null,
  isWhole: (raw) => raw.startsWith('<<<'),
  obstacle(literal) {
    const { node } = literal
    if (node.type === 'HeredocString') return 'heredoc'
    if (findAncestor(node, types('EnumCase CaseClause')) !== null && node.parent?.type !== 'ArgList') return 'constant'
    const holder = findAncestor(
      node,
      types(
        'ConstDeclaration PropertyDeclaration ParamList FunctionStaticDeclaration Block ClosureExpression ArrowFunction',
      ),
    )
    if (holder === null || /Block|Closure|Arrow/.test(holder.type)) return null
    if (holder.type === 'ConstDeclaration') return findConstObstacle(literal, holder)
    if (holder.type === 'PropertyDeclaration') return findPropertyObstacle(literal, holder)
    return 'constant'
  },
  declare(literal, read) {
    const holder = findAncestor(literal.node, types('ConstDeclaration PropertyDeclaration Block'))
    if (holder?.type === 'PropertyDeclaration') return makePropertyEdits(literal, holder, read)
    if (holder?.type !== 'ConstDeclaration') return undefined
    return isInClass(holder) ? makePrivateConstEdits(literal, holder, read) : makeConstEdits(literal, holder, read)
  },
  fallback({ node, text, grammar }) {
    const { parent } = node
    if (parent?.type === 'ArgList') {
      const call = parent.parent!
      // `env("NAME", "...")` reads more than the environment, and goes on doing so.
      return /^getenv\b/.test(text.slice(call.start, call.end)) ? call : null
    }
    const isOperation = parent?.type === 'BinaryExpression' || parent?.type === 'ConditionalExpression'
    if (!isOperation || findSibling(node, 1) !== undefined) return null
    const before = text
      .slice(parent.start, node.start)
      .replace(/(?:\?\?|\|\||\?\s*:|\bor)\s*$/, '')
      .trim()
    const isWhole = /^(?:getenv\(\s*(["'])\w+\1\s*\)|\$_(?:ENV|SERVER)\[\s*(["'])\w+\2\s*\])$/.test(before)
    return isWhole && grammar.readName(before) !== undefined ? parent : null
  },
  complete: (_text, _tree, edits) => mergeConstructors(edits),
  start: (file) => `php ${file}`,
}

/** Two properties of a class get one constructor, where it has none. */
function mergeConstructors(edits: readonly TextEdit[]): readonly TextEdit[] {
  const merged: TextEdit[] = []
  for (const each of edits) {
    const last = merged.at(-1)
    const isSame =
      last?.from === each.from && each.from === each.to && [last, each].every(({ by }) => CONSTRUCTOR.test(by))
    if (isSame)
      merged[merged.length - 1] = { ...last, by: last.by.replace(BODY, (body) => `${body}${BODY.exec(each.by)![0]}`) }
    else merged.push(each)
  }
  return merged
}

const CONSTRUCTOR = /^\s*public function __construct\(\)/
/** The statements of such a constructor. */
const BODY = /(?<=\{\r?\n)(?:[ \t]*\$this->[^\r\n]*\r?\n)+/

function isConverted({ node, text }: ChangedLiteral): boolean {
  const { parent } = node
  if (parent?.type === 'CastExpression') return true
  return (
    parent?.type === 'ArgList' && /\b(?:intval|floatval)$/.test(text.slice(Math.max(0, parent.start - 9), parent.start))
  )
}

const isInClass = (holder: TreeNode) => holder.parent?.type === 'DeclarationList'

/** True for a declaration of one name, whose value is the literal and nothing else. */
function isAlone({ node, text }: ChangedLiteral, holder: TreeNode): boolean {
  const declared = holder.children.filter(({ type }) => type === 'VariableDeclarator')
  const value = declared[0]?.children.at(-1)
  return declared.length === 1 && value === node && text[holder.end - 1] === ';'
}

function getName({ text }: ChangedLiteral, holder: TreeNode): string {
  const declarator = holder.children.find(({ type }) => type === 'VariableDeclarator')!
  const { start, end } = declarator.children[0]!
  return text.slice(start, end)
}

function findConstObstacle(literal: ChangedLiteral, holder: TreeNode) {
  if (!isAlone(literal, holder)) return 'constant'
  if (!isInClass(holder)) return isUsedAsConstant(literal, holder, '') ? 'constant' : null
  // `Gate::KEY`, by the name of the class.
  if (new RegExp(`(?<!\\bself|\\bstatic)\\s*::\\s*${getName(literal, holder)}\\b`).test(literal.text)) return 'constant'
  const modifiers = literal.text.slice(holder.start, holder.start + 40)
  return /^\s*(?:final\s+)?private\s/.test(modifiers) && !isUsedAsConstant(literal, holder, '(?:self|static)\\s*::\\s*')
    ? null
    : 'constant'
}

/** True where other constants, defaults or attributes need the constant, which can't wait for a program to run. */
function isUsedAsConstant({ text, grammar }: ChangedLiteral, holder: TreeNode, scope: string): boolean {
  const source = { text, grammar } as ChangedLiteral
  const used = new RegExp(`${scope}\\b${getName(source, holder)}\\b`)
  const constant = types('ConstDeclaration PropertyDeclaration ParamList FunctionStaticDeclaration Attributes')
  return [...walkNodes(grammar.parse(text))].some(
    (each) => constant.has(each.type) && each.start !== holder.start && used.test(text.slice(each.start, each.end)),
  )
}

/** `const NAME = '...'` of a file becomes a call of `define`, which may call functions. */
function makeConstEdits(literal: ChangedLiteral, holder: TreeNode, read: Read): readonly TextEdit[] | null {
  const { text } = literal
  const quote = text[literal.node.start] === '"' ? '"' : "'"
  const expression = read(quote)
  if (expression === null) return null
  const name = `${quote}${getName(literal, holder)}${quote}`
  const isNamespaced = [...walkNodes(findTop(holder))].some(({ type }) => type === 'NamespaceDefinition')
  const whole = isNamespaced ? `__NAMESPACE__ . ${quote}${quote === '"' ? '\\\\' : '\\'}${name.slice(1)}` : name
  return [{ from: holder.start, to: holder.end, by: `define(${whole}, ${expression});` }]
}

/** A private constant goes, and the value is read where it was used. */
function makePrivateConstEdits(literal: ChangedLiteral, holder: TreeNode, read: Read): readonly TextEdit[] | null {
  const { text } = literal
  const quote = text[literal.node.start] === '"' ? '"' : "'"
  const expression = read(quote)
  if (expression === null) return null
  const from = startOfLine(text, holder.start)
  const end = endOfLine(text, holder.end)
  const next = /^\r?\n/.exec(text.slice(end))?.[0].length ?? 0
  const used = new RegExp(`\\b(?:self|static)\\s*::\\s*${getName(literal, holder)}\\b`, 'g')
  const uses = [...text.matchAll(used)].map(({ 0: whole, index }) => ({
    from: index,
    to: index + whole.length,
    by: expression,
  }))
  return [{ from, to: end + next, by: '' }, ...uses]
}

function findPropertyObstacle(literal: ChangedLiteral, holder: TreeNode) {
  const list = holder.parent
  if (!isAlone(literal, holder) || list?.type !== 'DeclarationList') return 'constant'
  if (/^[^$]*\b(?:static|readonly)\b/.test(literal.text.slice(holder.start, holder.end))) return 'constant'
  const owner = list.parent
  const head = literal.text.slice(owner?.start, list.start)
  if (owner?.type !== 'ClassDeclaration' || /\babstract\b/.test(head)) return 'constant'
  if (getConstructor(literal, list) === undefined && /\bextends\b/.test(head)) return 'constant'
  // A class below it may have a constructor of its own, which need not call this one.
  return isExtended(literal, /\bclass\s+(\w+)/.exec(head)?.[1] ?? '') ? 'constant' : null
}

function isExtended({ text, around }: ChangedLiteral, name: string): boolean {
  const extending = new RegExp(`\\bextends\\s+(?:\\\\?\\w+\\\\)*\\\\?${name}\\b`)
  return [text, ...around.others()].some((each) => extending.test(each))
}

function getConstructor({ text }: ChangedLiteral, list: TreeNode): TreeNode | undefined {
  return list.children.find(
    (each) =>
      each.type === 'MethodDeclaration' &&
      /\bfunction\s+__construct\s*\(/.test(text.slice(each.start, each.start + 200)),
  )
}

/** The default of a property is given in the constructor instead. */
function makePropertyEdits(literal: ChangedLiteral, holder: TreeNode, read: Read): readonly TextEdit[] | null {
  const { text, node } = literal
  const expression = read(text[node.start] === '"' ? '"' : "'")
  const name = getName(literal, holder).slice(1)
  if (expression === null) return null
  const eol = text.includes('\r\n') ? '\r\n' : '\n'
  const equals = text.lastIndexOf('=', node.start)
  const from = equals - /\s*$/.exec(text.slice(0, equals))![0].length
  const given = `$this->${name} = ${expression};`
  const list = holder.parent!
  const body = getConstructor(literal, list)?.children.find(({ type }) => type === 'Block')
  const indentation = findIndentation(text, holder.start)
  const step = indentation.includes('\t') ? '\t' : '    '
  const [at, added] =
    body === undefined
      ? [
          startOfLine(text, list.end - 1),
          `${eol}${indentation}public function __construct()${eol}${indentation}{${eol}${indentation}${step}${given}${eol}${indentation}}${eol}`,
        ]
      : [body.start + 1, `${eol}${indentation}${step}${given}`]
  return [
    { from, to: node.end, by: '' },
    { from: at, to: at, by: added },
  ]
}
