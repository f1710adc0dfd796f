import { findSibling } from '../tree/node.ts'
import type { ChangedLiteral, TreeRewriting } from '../tree/rewriting.ts'
import { tokenFallback } from '../tree/token-fallback.ts'

/** How Kotlin and Scala read their environment. */
export const kotlinRewriting: TreeRewriting = {
  read({ name, form }, literal) {
    const read = `System.getenv("${name}")`
    return form === 'number' && !isConverted(literal) ? `${read}.toInt()` : read
  },
  join: ' + ',
  within: () => null,
  isWhole: (raw) => raw.includes('"""'),
  obstacle(literal) {
    const { text } = literal
    const name = findConstName(literal)
    if (name === null)
      return findSibling(literal.node, 1) !== undefined && /^->/.test(text.slice(findSibling(literal.node, 1)!.start))
        ? 'pattern'
        : null
    const isNeeded = new RegExp(`@\\w+\\([^)]*\\b${name}\\b|\\bconst\\s+val\\s+\\w+[^=\\n]*=[^\\n]*\\b${name}\\b`).test(
      text,
    )
    return isNeeded ? 'constant' : null
  },
  declare(literal, read) {
    const { text, node } = literal
    if (findConstName(literal) === null) return undefined
    const expression = read('"')
    const at = text.lastIndexOf('const', node.start)
    if (expression === null) return null
    const typed = /:/.test(text.slice(at, node.start)) ? '' : ': String'
    const name = findConstName(literal)!
    const behind = text.indexOf(name, at) + name.length
    return [
      { from: at, to: text.indexOf('val', at), by: '' },
      ...(typed === '' || node.type === 'Number' ? [] : [{ from: behind, to: behind, by: typed }]),
      { from: node.start, to: node.end, by: expression },
    ]
  },
  fallback: (literal, variable) =>
    tokenFallback(literal, new RegExp(`^System\\.getenv\\(\\s*"${variable}"\\s*\\)\\s*\\?:\\s*$`), /^System\b/),
  start: () => './gradlew run',
}

function isConverted({ node, text }: ChangedLiteral): boolean {
  return /^\)?\.toInt\b/.test(text.slice(node.end, node.end + 7))
}

/** The name of the `const val` whose value a literal is; `null` where it is none's. */
function findConstName({ node, text }: ChangedLiteral): string | null {
  const statement = node.parent
  if (statement === null) return null
  return /\bconst\s+val\s+(\w+)\s*(?::\s*\w+\s*)?=\s*$/.exec(text.slice(statement.start, node.start))?.[1] ?? null
}
