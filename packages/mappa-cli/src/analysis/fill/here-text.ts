/** What begins or ends something in the text of a here document, and within what that opens. */
const SIGNS = /`|\$\(|\$\{|[(){}'"#]|\bcase\b/g

/**
 * True for the text of a here document in which a command or an expansion begins of which it is not sure that it ends there: some shells read
 * on behind the end of the document then, others do not.
 */
export function opensExpansion(body: string): boolean {
  const open: string[] = []
  for (const [sign] of body.replace(/\\./gs, '').matchAll(SIGNS)) {
    const inner = open.at(-1)
    const end = ENDS[sign]
    if (sign === inner) open.pop()
    else if (isPassed(inner, sign)) continue
    else if (inner === '"') return true
    else if (end !== undefined) open.push(end)
    else if (inner === ')' && QUOTES.has(sign)) open.push(sign)
    else if (HIDING[inner ?? '']?.test(sign) === true) return true
  }
  return open.length > 0
}

/** What ends what a sign begins. */
const ENDS: Readonly<Record<string, string>> = { '`': '`', '$(': ')', '${': '}', '(': ')' }
const QUOTES: ReadonlySet<string> = new Set(['"', "'"])
/** Comments, branches and quotes may hide what ends a command or an expansion, or what looks like it. */
const HIDING: Readonly<Record<string, RegExp>> = { ')': /#|case/, '}': /['"]/ }

/** True for a sign that means nothing within what is open. */
function isPassed(inner: string | undefined, sign: string): boolean {
  if (inner === undefined) return sign === '('
  return inner === '`' || inner === "'" || (inner === '"' && (sign === '(' || ENDS[sign] === undefined))
}
