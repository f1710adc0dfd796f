import type { Node } from '@babel/types'
import type { ObstacleCode } from '../obstacles.ts'
import { isCall } from './calls.ts'
import { readPlainName } from './tree.ts'

/**
 * Finds out what keeps a literal from being replaced by an expression; `null` where nothing does.
 *
 * @param above the nodes above it, the nearest last
 */
export function findLiteralObstacle(node: Node, above: readonly Node[]): ObstacleCode | null {
  const parent = above.at(-1)
  if (parent === undefined) return null
  const [template, tag] = node.type === 'TemplateElement' ? [parent, above.at(-2)] : [node, parent]
  if (tag?.type === 'TaggedTemplateExpression' && tag.quasi === template) return 'tag'
  return findParentObstacle(node, parent) ?? above.map(findOuterObstacle).find((each) => each !== null) ?? null
}

/** What keeps a literal from being replaced, by what stands directly around it. */
function findParentObstacle(node: Node, parent: Node): ObstacleCode | null {
  switch (parent.type) {
    case 'TSAsExpression':
    case 'TSTypeAssertion':
      return isConst(parent.typeAnnotation) ? 'as-const' : null
    case 'VariableDeclarator':
      return parent.id.type === 'Identifier' && isLiteralType(parent.id.typeAnnotation) ? 'literal-type' : null
    case 'ExportNamedDeclaration':
      return parent.source === node ? 'module' : null
    default:
      if ('typeAnnotation' in parent && parent.type === 'ClassProperty' && isLiteralType(parent.typeAnnotation))
        return 'literal-type'
      return isKey(node, parent) ? 'member' : null
  }
}

function isKey(node: Node, parent: Node): boolean {
  return 'key' in parent && parent.key === node && !('computed' in parent && parent.computed)
}

/** What keeps every literal within a node from being replaced. */
function findOuterObstacle(node: Node): ObstacleCode | null {
  if (node.type === 'TSEnumMember') return 'enum'
  if (/^(Import|Export)(Declaration|AllDeclaration|Attribute|Expression)$/.test(node.type)) return 'module'
  if (/^TS(.*Type|ExternalModuleReference)$/.test(node.type)) return 'type'
  if (!isCall(node)) return null
  return node.callee.type === 'Import' || readPlainName(node.callee) === 'require' ? 'module' : null
}

/** True for a type that allows some texts alone: one of them, a pattern of them, or several. */
function isLiteralType(node: Node | null | undefined): boolean {
  switch (node?.type) {
    case 'TSTypeAnnotation':
      return isLiteralType(node.typeAnnotation)
    case 'TSUnionType':
      return node.types.some(isLiteralType)
    default:
      return node?.type === 'TSLiteralType' || node?.type === 'TSTemplateLiteralType'
  }
}

function isConst(type: Node): boolean {
  return type.type === 'TSTypeReference' && readPlainName(type.typeName) === 'const'
}
