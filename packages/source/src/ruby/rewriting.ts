import { findSibling } from '../tree/node.ts'
import type { ChangedLiteral, TreeRewriting } from '../tree/rewriting.ts'
import { tokenFallback } from '../tree/token-fallback.ts'

/** How Ruby reads its environment. */
export const rubyRewriting: TreeRewriting = {
  read({ name, form }, literal, quote) {
    const read = `ENV.fetch(${quote}${name}${quote})`
    return form === 'number' && !isConverted(literal) ? `Integer(${read})` : read
  },
  join: ' + ',
  isWhole: (raw) => raw.startsWith('%'),
  within: (opening) => (/^(?:"|%Q?[^\w])$/.test(opening) && !opening.startsWith('%q') ? ['#{', '}'] : null),
  obstacle({ node, text }) {
    if (node.type === 'Heredoc') return 'heredoc'
    const around = [findSibling(node, -1), findSibling(node, 1)]
    // Two texts side by side are one, also where a line ends between them.
    if (around.some((each) => each?.type === 'Text' || (each !== undefined && text[each.start] === '\\')))
      return 'joined'
    const before = findSibling(node, -1)
    if (
      before !== undefined &&
      /^(?:require|require_relative|load|autoload)$/.test(text.slice(before.start, before.end))
    )
      return 'module'
    return null
  },
  fallback: (literal, variable) =>
    tokenFallback(
      literal,
      new RegExp(
        `^(?:ENV\\[\\s*(["'])${variable}\\1\\s*\\]\\s*\\|\\||ENV\\.fetch\\(\\s*(["'])${variable}\\2\\s*,)\\s*$`,
      ),
      /^ENV\b/,
    ),
  start: (file) => `ruby ${file}`,
}

function isConverted({ node, text }: ChangedLiteral): boolean {
  return (
    /\b(?:Integer|Float)\(\s*(?:ENV\.fetch\([^()]*|ENV\[[^\]]*\]\s*\|\|\s*)?$/.test(
      text.slice(Math.max(0, node.start - 80), node.start),
    ) || /^\)?\.to_i\b/.test(text.slice(node.end, node.end + 6))
  )
}
