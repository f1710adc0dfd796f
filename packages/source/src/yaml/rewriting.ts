import type { SourceLiteral } from '../source.ts'
import { rewriteText } from '../text/rewriting.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** Files of compose, and the settings of Spring, which both replace `${NAME}` when they are read. */
const COMPOSE = /(?:^|\/)(?:docker-)?compose(?:[.-][\w.-]+)?\.ya?ml$/i
const SPRING = /(?:^|\/)(?:application|bootstrap)(?:-[\w-]+)?\.ya?ml$/i

/** How YAML reads variables, in the files of programs that replace them. */
export function yamlRewriting(literals: (text: string, file: string) => readonly SourceLiteral[]) {
  return rewriteText({
    literals,
    canRead: (file) => COMPOSE.test(file) || SPRING.test(file),
    obstacle({ text, start, literal }) {
      if (/[|>]/.test(text[literal.start] ?? '')) return 'heredoc'
      // Two dollar signs stand for one there.
      if (literal.value.includes('$')) return 'dollar'
      return /^[ \t]*#/.test(text.slice(text.lastIndexOf('\n', start - 1) + 1, start)) ? 'not-written' : null
    },
    replace({ name }, { text, start, end, literal, isWhole }) {
      const read = `\${${name}}`
      const before = text.slice(text.lastIndexOf('\n', start - 1) + 1, start)
      const isInFlow = /[[{]/.test(before.replace(/\$\{[^}]*\}/g, ''))
      if (start > literal.start || endsInQuotes(before) || !isInFlow) return [{ from: start, to: end, by: read }]
      // Braces need quotes there, and quotes have to be around all of a value.
      const isAlone = /[[{,:]\s*$/.test(before) && /^[ \t]*(?:[\]},\r\n]|$)/.test(text.slice(end))
      return isWhole && isAlone ? [{ from: start, to: end, by: `"${read}"` }] : null
    },
    faults: findFaults,
    start: (file) =>
      COMPOSE.test(file) ? `docker compose ${/^(?:docker-)?compose\.ya?ml$/i.test(file) ? '' : `-f ${file} `}up` : null,
  })
}

/** True where a line, up to somewhere, has a quote open. */
function endsInQuotes(before: string): boolean {
  return /["']/.test(before.replace(/"(?:[^"\\]|\\.)*"|'(?:[^']|'')*'/g, ''))
}

/** What a parser does not understand. */
function findFaults(text: string): number {
  const { parseAllDocuments } = createRequire(import.meta.url)('yaml') as typeof import('yaml')
  const documents = parseAllDocuments(text, { logLevel: 'silent', uniqueKeys: false })
  return Array.isArray(documents) ? documents.reduce((sum, { errors }) => sum + errors.length, 0) : 0
}
