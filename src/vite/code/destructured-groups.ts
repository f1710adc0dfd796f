import MagicString from 'magic-string'
import { parseSync } from 'vite'
import type { Declaration } from '../../core/definition/definition.ts'
import type { SyntaxNode } from '../../node/source/parser.ts'
import { plainName } from '../../node/source/tree.ts'
import { BROWSER } from './modules.ts'

/**
 * Makes imports of settings that the top level of a module takes out of their groups, as in `const { visitor } = settings`: a
 * bundler would keep the whole group for such a line, and values that nobody reads with it.
 *
 * @param settings the public settings
 * @returns the new code and its map; `null` where there is no such line
 */
export function importDestructured(code: string, id: string, settings: readonly Declaration[]) {
  const { program, errors } = parseSync(`${id.replace(/[?#].*$/, '')}.tsx`, code)
  if (errors.length > 0) return null
  const text = new MagicString(code)
  /** The path in the settings that a name of the module stands for. */
  const known = new Map<string, string>()
  for (const node of program.body as unknown as SyntaxNode[]) {
    if (node.type === 'ImportDeclaration' && plainName(node.source) === BROWSER) {
      for (const each of node.specifiers as SyntaxNode[])
        if (plainName(each.imported) === 'settings') known.set(plainName(each.local), '')
    } else if (node.type === 'VariableDeclaration' && node.kind === 'const') {
      const imports = (node.declarations as SyntaxNode[]).map((each) => importsFor(each, known, settings))
      if (imports.includes(null)) continue
      text.update(node.start, node.end, imports.join('\n'))
    }
  }
  return text.hasChanged() ? { code: text.toString(), map: text.generateMap({ hires: 'boundary', source: id }) } : null
}

/** Imports that give the same names as a declaration; `null` where it is another kind of one. */
function importsFor(
  { id, init }: SyntaxNode,
  known: Map<string, string>,
  settings: readonly Declaration[],
): string | null {
  const path = pathOf(init as SyntaxNode | null, known)
  const pattern = id as SyntaxNode
  if (path === null || pattern.type !== 'ObjectPattern') return null
  const lines: string[] = []
  for (const { type, computed, key, value } of pattern.properties as SyntaxNode[]) {
    if (type !== 'Property' || computed === true || (value as SyntaxNode).type !== 'Identifier') return null
    const [name, local] = [plainName(key), plainName(value)]
    const whole = path === '' ? name : `${path}.${name}`
    const module = `${BROWSER}/settings${path === '' ? '' : `.${path}`}`
    if (settings.some((each) => each.path === whole)) lines.push(`import { ${name} as ${local} } from '${module}'`)
    else if (settings.some((each) => each.path.startsWith(`${whole}.`))) {
      known.set(local, whole)
      lines.push(`import * as ${local} from '${BROWSER}/settings.${whole}'`)
    } else return null
  }
  return lines.join('\n')
}

/** The path that an expression reads, from a name that stands for one. */
function pathOf(node: SyntaxNode | null, known: ReadonlyMap<string, string>): string | null {
  if (node?.type === 'Identifier') return known.get(plainName(node)) ?? null
  if (node?.type !== 'MemberExpression' || node.computed === true) return null
  const group = pathOf(node.object as SyntaxNode, known)
  if (group === null) return null
  return group === '' ? plainName(node.property) : `${group}.${plainName(node.property)}`
}
