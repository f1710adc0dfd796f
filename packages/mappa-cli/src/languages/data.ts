import type { Language } from './language.ts'
import { readByLines } from './lines/lines.ts'

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
    const source = lines.read(text, file)
    if (source === null || !text.includes('[')) return source
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
