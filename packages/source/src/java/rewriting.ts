import { types } from '../tree/grammar.ts'
import { findAncestor } from '../tree/node.ts'
import type { ChangedLiteral, TreeRewriting } from '../tree/rewriting.ts'

/** How Java reads its environment. */
export const javaRewriting: TreeRewriting = {
  read({ name, form }, literal) {
    const read = `System.getenv("${name}")`
    return form === 'number' && !isConverted(literal) ? `Integer.parseInt(${read})` : read
  },
  join: ' + ',
  within: () => null,
  isWhole: (raw) => raw.startsWith('"""'),
  obstacle(literal) {
    const { node, text } = literal
    if (findAncestor(node, types('Annotation MarkerAnnotation')) !== null) return 'constant'
    if (findAncestor(node, types('SwitchLabel')) !== null) return 'pattern'
    const field = findAncestor(node, types('FieldDeclaration'))
    if (field !== null && isNeededAsConstant(literal, text.slice(field.start, node.start))) return 'constant'
    if (node.type === 'IntegerLiteral') {
      const holder = findAncestor(node, types('FieldDeclaration LocalVariableDeclaration'))
      const type =
        holder === null
          ? ''
          : /\b(byte|short|char|Long|Short|Byte)\b[^=]*=\s*$/.exec(text.slice(holder.start, node.start))?.[1]
      if (type) return 'number-type'
    }
    return null
  },
  fallback({ node, text, grammar }, variable) {
    const call = node.parent?.type === 'ArgumentList' ? node.parent.parent : null
    if (call !== null && /getenv\(\)\.getOrDefault\(/.test(text.slice(call.start, call.end))) return call
    const condition = node.parent
    if (
      condition?.type !== 'TernaryExpression' ||
      grammar.readName(text.slice(condition.start, node.start)) !== variable
    )
      return null
    return /^System\.getenv\("\w+"\)\s*!=\s*null\s*\?\s*System\.getenv\("\w+"\)\s*:\s*$/.test(
      text.slice(condition.start, node.start),
    )
      ? condition
      : null
  },
  start: (file) => `java ${file}`,
}

function isConverted({ node, text }: ChangedLiteral): boolean {
  return /\b(?:parseInt|valueOf)\([^()]*(?:\([^()]*\)[^()]*)?$/.test(
    text.slice(Math.max(0, node.start - 60), node.start),
  )
}

/** True where an annotation or a switch needs the constant, which the compiler has to know. */
function isNeededAsConstant({ text }: ChangedLiteral, declaration: string): boolean {
  const name = /(\w+)\s*=\s*$/.exec(declaration)?.[1]
  if (name === undefined || !/\bfinal\b/.test(declaration)) return false
  return new RegExp(`@\\w+\\([^)]*\\b${name}\\b|\\bcase\\s+(?:\\w+\\.)?${name}\\b`).test(text)
}
