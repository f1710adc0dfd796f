import type { TextEdit } from '@mappa/core/text/edits'
import type { ObstacleCode } from '../obstacles.ts'
import { types } from '../tree/grammar.ts'
import { endOfLine, startOfLine } from '../tree/lines.ts'
import { findAncestor, findTop, type TreeNode, walkNodes } from '../tree/node.ts'
import type { ChangedLiteral, TreeRewriting } from '../tree/rewriting.ts'

/** The function that makes a number of a variable: Go has no expression for it. */
const HELPER = 'envInt'

/** How Go reads its environment. */
export const goRewriting: TreeRewriting = {
  read: ({ name, form }) => (form === 'number' ? `${HELPER}("${name}")` : `os.Getenv("${name}")`),
  join: ' + ',
  within: () => null,
  obstacle(literal) {
    const { node } = literal
    const spec = findAncestor(node, types('ConstSpec'))
    if (spec !== null) return findConstObstacle(literal, spec)
    return node.type === 'Number' ? findNumberObstacle(literal) : null
  },
  declare(literal, read) {
    const spec = findAncestor(literal.node, types('ConstSpec'))
    const expression = spec === null ? null : read('"')
    if (spec === null) return undefined
    return expression === null ? null : makeConstEdits(literal, spec, expression)
  },
  fallback: () => null,
  complete(text, tree, edits, { siblings, helpers }) {
    const needsHelper = edits.some(({ by }) => by.includes(`${HELPER}(`))
    const isThere =
      needsHelper && (helpers.has(HELPER) || [text, ...siblings()].some((each) => each.includes(`func ${HELPER}(`)))
    const adds = needsHelper && !isThere
    if (adds) helpers.add(HELPER)
    const needed = [
      ...(edits.some(({ by }) => by.includes('os.Getenv(')) || adds ? ['os'] : []),
      ...(adds ? ['strconv'] : []),
    ]
    const helper = adds ? [{ from: text.length, to: text.length, by: writeHelper(text) }] : []
    return [...importEdits(text, tree, needed), ...edits, ...helper]
  },
  // Groups of constants all of which became variables.
  tidy: (text) => text.replace(/^const \(\s*\)\n+/gm, ''),
  start: (file) => `go run ${file.includes('/') ? `./${file.split('/').slice(0, -1).join('/')}` : '.'}`,
}

function writeHelper(text: string): string {
  return `${text.endsWith('\n') ? '' : '\n'}
// ${HELPER} reads a number from the environment, and ends the program where there is none.
func ${HELPER}(name string) int {
	value, err := strconv.Atoi(os.Getenv(name))
	if err != nil {
		panic(name + " has to be a number")
	}
	return value
}
`
}

/** A constant becomes a variable, unless other constants or the size of an array need it. */
function findConstObstacle(literal: ChangedLiteral, spec: TreeNode): ObstacleCode | null {
  const { text, node, grammar, around } = literal
  const [name, ...others] = spec.children.filter(({ type }) => type === 'DefName')
  if (name === undefined || others.length > 0 || spec.children.at(-1) !== node) return 'constant'
  const group = spec.parent
  // A line without a value repeats the one before.
  const next =
    group?.type === 'SpecList'
      ? group.children.slice(spec.index + 1).find(({ type }) => type === 'ConstSpec')
      : undefined
  if (next !== undefined && !text.slice(next.start, next.end).includes('=')) return 'constant'
  const written = text.slice(name.start, name.end)
  const used = new RegExp(`\\b${written}\\b`)
  const files = [text, ...(isExported(written) || isPackageLevel(spec) ? around.siblings() : [])]
  const isNeeded = files.some((each) =>
    [...walkNodes(each === text ? findTop(spec) : grammar.parse(each))].some(
      (other) =>
        /^(?:ConstSpec|ArrayType)$/.test(other.type) &&
        !(each === text && other.start === spec.start) &&
        used.test(each.slice(other.start, other.end).replace(/^[^=]*=/, '')),
    ),
  )
  if (isNeeded) return 'constant'
  if (node.type === 'Number')
    return isTyped(literal, spec, 'int') || isPrintedOnly(files, written) ? null : 'number-type'
  return spec.children.some(({ type }) => /Type/.test(type)) && !isTyped(literal, spec, 'string') ? 'constant' : null
}

const isExported = (name: string) => /^[A-Z]/.test(name)
const isPackageLevel = (node: TreeNode) => findAncestor(node, types('Block')) === null

function isTyped({ text }: ChangedLiteral, spec: TreeNode, type: string): boolean {
  return spec.children.some((each) => each.type === 'TypeName' && text.slice(each.start, each.end) === type)
}

/** True where a number is only ever printed, which any type can be. */
function isPrintedOnly(files: readonly string[], name: string): boolean {
  const uses = new RegExp(`\\b${name}\\b`, 'g')
  const printed = new RegExp(`\\b(?:fmt|log)\\.\\w+\\([^()\\n]*\\b${name}\\b|\\bstrconv\\.Itoa\\(${name}\\)`, 'g')
  const count = (pattern: RegExp) => files.reduce((sum, each) => sum + [...each.matchAll(pattern)].length, 0)
  return count(uses) - 1 === count(printed)
}

/** A number is an int where nothing says otherwise; in any other place its type can't be known from here. */
function findNumberObstacle({ node, text }: ChangedLiteral): ObstacleCode | null {
  const { parent } = node
  const before = parent === null ? '' : text.slice(Math.max(0, parent.start - 40), node.start)
  if (parent?.type === 'Arguments')
    return /\b(?:flag\.(?:Int|IntVar)|fmt\.\w+|log\.\w+|strconv\.Itoa)\([^()]*$/.test(before) ? null : 'number-type'
  if (parent?.type === 'VarDecl') return null
  if (parent?.type === 'VarSpec')
    return parent.children.some(({ type }) => /Type/.test(type)) && !/\bint\s*=\s*$/.test(before) ? 'number-type' : null
  if (parent?.type === 'Element') return isIntField(text, parent) ? null : 'number-type'
  return 'number-type'
}

/** True for a member of a structure of this file that is an int there. */
function isIntField(text: string, element: TreeNode): boolean {
  const [key] = element.children
  const owner = findAncestor(element, types('TypedLiteral'))?.children[0]
  if (key === undefined || owner === undefined) return false
  const struct = new RegExp(`\\btype\\s+${text.slice(owner.start, owner.end)}\\s+struct\\s*\\{([^}]*)\\}`).exec(text)
  return struct !== null && new RegExp(`^\\s*${text.slice(key.start, key.end)}\\s+int\\b`, 'm').test(struct[1]!)
}

function makeConstEdits({ text, node }: ChangedLiteral, spec: TreeNode, expression: string): readonly TextEdit[] {
  const group = spec.parent!
  const declaration = group.type === 'SpecList' ? group.parent! : group
  const keyword = { from: declaration.start, to: declaration.start + 'const'.length, by: 'var' }
  const value = { from: node.start, to: node.end, by: expression }
  const specs = declaration === group ? [spec] : group.children.filter(({ type }) => type === 'ConstSpec')
  if (specs.length === 1) return [keyword, value]
  const from = startOfLine(text, spec.start)
  const end = endOfLine(text, spec.end)
  const isOwnLine =
    text.slice(from, spec.start).trim() === '' && /^\s*(?:;\s*)?(?:\/\/.*)?$/.test(text.slice(spec.end, end))
  const comment = isOwnLine ? text.slice(spec.end, end).replace(/^\s*;?/, '') : ''
  const start = isOwnLine ? from : spec.start
  const to = isOwnLine ? end + 1 : spec.end + (/^\s*;\s*/.exec(text.slice(spec.end))?.[0].length ?? 0)
  const left = text.slice(spec.start, node.start).replace(/\s+=/, ' =').trimEnd()
  return [
    { from: start, to, by: '' },
    {
      from: declaration.end,
      to: declaration.end,
      by: `\n\nvar ${left} ${expression}${comment === '' ? '' : ` ${comment.trim()}`}`,
    },
  ]
}

/** Adds packages where they belong among the imports. */
function importEdits(text: string, tree: TreeNode, needed: readonly string[]): TextEdit[] {
  const imports = tree.children.filter(({ type }) => type === 'ImportDecl')
  const specs = imports.flatMap((each) => [...walkNodes(each)].filter(({ type }) => type === 'ImportSpec'))
  const written = (each: TreeNode) => text.slice(each.start, each.end)
  const missing = needed.filter((name) => !specs.some((each) => new RegExp(`^"${name}"$`).test(written(each))))
  if (missing.length === 0) return []
  const group = imports.find((each) => each.children.some(({ type }) => type === 'SpecList'))
  if (group === undefined) {
    const first = imports[0]
    const lines = missing.map((name) => `import "${name}"\n`).join('')
    const at =
      first === undefined
        ? endOfLine(text, tree.children.find(({ type }) => type === 'PackageClause')!.end) + 1
        : startOfLine(text, first.start)
    return [{ from: at, to: at, by: first === undefined ? `\n${lines}` : lines }]
  }
  const own = [...walkNodes(group)].filter(({ type }) => type === 'ImportSpec')
  return missing.map((name) => {
    const after = own.find(
      (each) => written(each) > `"${name}"` && /^"[\w/]+"$/.test(written(each)) && !written(each).includes('.'),
    )
    const list = group.children.find(({ type }) => type === 'SpecList')!
    const at = after === undefined ? startOfLine(text, list.end - 1) : startOfLine(text, after.start)
    return { from: at, to: at, by: `\t"${name}"\n` }
  })
}
