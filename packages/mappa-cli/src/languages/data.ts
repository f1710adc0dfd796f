import type { Language } from './language.ts'
import { readByLines } from './lines/lines.ts'
import type { SourceLiteral } from './source.ts'

const lines = readByLines({
  name: 'TOML, INI and properties',
  files: /\.(?:toml|ini|cfg|conf|cnf|properties)$/,
  comment: /^\s*[#;]/,
  isBare: true,
  reads: [],
})

/** The heading of the lines below it: `[mail]`, `[[mail.accounts]]`. */
const SECTION = /^\s*\[{1,2}\s*["']?([\w.:-]+)["']?\s*\]{1,2}\s*(?:[#;].*)?$/

/** Files of settings with a line for each. A value belongs to the section that it stands in. */
export const data: Language = {
  ...lines,
  read(text, file) {
    const found = lines.read(text, file)!
    const source = { ...found, literals: found.literals.flatMap((each) => exactly(text, each)) }
    if (!text.includes('[')) return source
    let section: string | undefined
    const sections = text.split('\n').map((line) => {
      section = SECTION.exec(line)?.[1] ?? section
      return section
    })
    const literals = source.literals.map((each) => {
      const around = sections[each.line - 1]
      return around === undefined || each.names.length === 0 ? each : { ...each, names: [around, ...each.names] }
    })
    return { ...source, literals }
  },
}

/** The exact value of a literal; nothing for one whose escapes are not those of JSON, which TOML shares. */
function exactly(text: string, literal: SourceLiteral): readonly SourceLiteral[] {
  const raw = text.slice(literal.start, literal.end)
  if (!raw.includes('\\')) return [literal]
  if (/^'.*'$/.test(raw)) return [{ ...literal, value: raw.slice(1, -1) }]
  try {
    return [{ ...literal, value: String(JSON.parse(raw)) }]
  } catch {
    return []
  }
}
