import type { Language } from './language.ts'
import { type LineValue, readByLines } from './lines/lines.ts'
import type { SourceLiteral } from './source.ts'

/** `Environment=NAME=value "OTHER=value"` of systemd. */
const UNIT = /^\s*Environment\s*=/
/** `//registry.fernhollow.example/:_authToken=value` of npm, whose keys begin with an address. */
const REGISTRY = /^\s*\/\/[^\s=]*:_?(\w+)\s*=\s*([^\s"'$]{4,})\s*$/

/** Values of lines that have a name within the value, or an address before it. */
function* findValues(line: string): Generator<LineValue> {
  const common = { callee: null, form: 'text' as const }
  const registry = REGISTRY.exec(line)
  if (registry !== null) {
    const [, name, value] = registry as unknown as [string, string, string]
    yield { ...common, value, names: [name], at: line.lastIndexOf(value), length: value.length }
  }
  if (!UNIT.test(line)) return
  for (const { 0: whole, 1: name, 2: value, index } of line.matchAll(/(?<=[\s="'])([A-Za-z_]\w*)=([^\s"']{4,})/g))
    yield { ...common, value: value!, names: [name!], at: index + whole.length - value!.length, length: value!.length }
}

const lines = readByLines({
  name: 'TOML, INI, properties, units of systemd and .npmrc',
  files: /\.(?:toml|ini|cfg|conf|cnf|properties|service)$|(?:^|\/)\.npmrc$/,
  comment: /^\s*[#;]/,
  isBare: true,
  reads: [],
  valuesOn: findValues,
})

/** The heading of the lines below it: `[mail]`, `[[mail.accounts]]`. */
const SECTION = /^\s*\[{1,2}\s*["']?([\w.:-]+)["']?\s*\]{1,2}\s*(?:[#;].*)?$/

/** Files of settings with a line for each. A value belongs to the section that it stands in. */
export const data: Language = {
  ...lines,
  read(text, file) {
    const found = lines.read(text, file)!
    const source = { ...found, literals: found.literals.flatMap((each) => matchExactly(text, each)) }
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
function matchExactly(text: string, literal: SourceLiteral): readonly SourceLiteral[] {
  const raw = text.slice(literal.start, literal.end)
  if (!raw.includes('\\')) return [literal]
  if (/^'.*'$/.test(raw)) return [{ ...literal, value: raw.slice(1, -1) }]
  try {
    return [{ ...literal, value: String(JSON.parse(raw)) }]
  } catch {
    return []
  }
}
