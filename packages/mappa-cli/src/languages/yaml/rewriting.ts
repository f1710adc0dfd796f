import type { SourceLiteral } from '../source.ts'
import { rewriteText } from '../text/rewriting.ts'

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
      const isQuoted = start > literal.start
      const before = text.slice(text.lastIndexOf('\n', start - 1) + 1, start)
      const isInFlow = /[[{]/.test(before.replace(/\$\{[^}]*\}/g, ''))
      if (isQuoted || !isInFlow) return [{ from: start, to: end, by: read }]
      return isWhole ? [{ from: start, to: end, by: `"${read}"` }] : null
    },
    start: (file) =>
      COMPOSE.test(file) ? `docker compose ${/^(?:docker-)?compose\.ya?ml$/i.test(file) ? '' : `-f ${file} `}up` : null,
  })
}
