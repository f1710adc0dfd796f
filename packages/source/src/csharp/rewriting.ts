import type { ChangedLiteral, TreeRewriting } from '../tree/rewriting.ts'
import { tokenFallback } from '../tree/token-fallback.ts'

/** How C# reads its environment. */
export const csharpRewriting: TreeRewriting = {
  read({ name, form }, literal) {
    const { text } = literal
    const from = /^\s*using\s+System\s*;/m.test(text) ? '' : 'System.'
    // Where the compiler watches for null, it is told that there is a value.
    const sure = /#nullable\s+enable|\w\?\s+\w+\s*[=;)]/.test(text) ? '!' : ''
    const read = `${from}Environment.GetEnvironmentVariable("${name}")${sure}`
    return form === 'number' && !isConverted(literal) ? `int.Parse(${read})` : read
  },
  join: ' + ',
  within: () => null,
  isWhole: (raw) => raw.includes('"""'),
  obstacle(literal) {
    const { text, node } = literal
    const before = text.slice(text.lastIndexOf('\n', node.start) + 1, node.start)
    if (/\bcase\s+$/.test(before) || /^\s*=>/.test(text.slice(node.end)) || /\bis\s+$/.test(before)) return 'pattern'
    if (isDefaultOfParameter(before)) return 'constant'
    const constant = /\bconst\s+\w+\s+(\w+)\s*=\s*$/.exec(before)?.[1]
    if (constant === undefined) return null
    const isNeeded = new RegExp(
      `\\bcase\\s+(?:\\w+\\.)?${constant}\\b|\\[\\w+\\([^\\]]*\\b${constant}\\b|\\bconst\\s+\\w+\\s+\\w+\\s*=[^;\\n]*\\b${constant}\\b`,
    ).test(text)
    return isNeeded ? 'constant' : null
  },
  declare(literal, read) {
    const { text, node } = literal
    const at = text.lastIndexOf('const ', node.start)
    if (at < 0 || !/^const\s+\w+\s+\w+\s*=\s*$/.test(text.slice(at, node.start))) return undefined
    const expression = read('"')
    const isField =
      /\b(?:public|private|protected|internal)\b[^\n;{}]*$/.test(text.slice(text.lastIndexOf('\n', at) + 1, at)) ||
      node.parent?.parent?.parent === null
    return expression === null
      ? null
      : [
          { from: at, to: at + 'const '.length, by: isField ? 'static readonly ' : '' },
          { from: node.start, to: node.end, by: expression },
        ]
  },
  fallback: (literal, variable) =>
    tokenFallback(
      literal,
      new RegExp(`^(?:System\\.)?Environment\\.GetEnvironmentVariable\\(\\s*"${variable}"\\s*\\)\\s*\\?\\?\\s*$`),
      /^(?:System\.)?Environment\b/,
    ),
  start: () => 'dotnet run',
}

function isConverted({ node, text }: ChangedLiteral): boolean {
  return /\b(?:Parse|ToInt32)\([^()]*(?:\([^()]*\)[^()]*)?$/.test(text.slice(Math.max(0, node.start - 80), node.start))
}

/** True for the default of a parameter: `void Open(string host = "...")`. */
function isDefaultOfParameter(before: string): boolean {
  return /^\s*(?:public|private|protected|internal|static|async)\b[^=;{}]*\(\s*(?:[^()]*,\s*)?[\w<>[\]?]+\s+\w+\s*=\s*$/.test(
    before,
  )
}
