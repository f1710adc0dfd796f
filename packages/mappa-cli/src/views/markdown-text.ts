/** Text in which nothing means anything to Markdown or HTML. */
export function plain(text: string): string {
  return text.replace(/\s+/g, ' ').replace(/[\\`*_{}[\]<>()#+!|~&@]/g, (sign) => `\\${sign}`)
}

/** Code within a line, of any text: in more backticks than it has, and without the bar that would end a cell. */
export function code(text: string): string {
  const line = text.replace(/\s+/g, ' ').replaceAll('|', '\\|')
  const longest = Math.max(0, ...[...line.matchAll(/`+/g)].map(([run]) => run.length))
  const fence = '`'.repeat(longest + 1)
  const pad = /^`|`$/.test(line) ? ' ' : ''
  return `${fence}${pad}${line}${pad}${fence}`
}
