import { makeLocator } from '@mappa/core/text/locator'
import type { Language } from '../language.ts'
import { findCommandValues } from '../lines/commands.ts'
import { readByLines } from '../lines/lines.ts'
import type { Source, SourceLiteral } from '../source.ts'
import { yamlRewriting } from './rewriting.ts'

const { createRequire } = process.getBuiltinModule('node:module')

const lines = readByLines({
  name: 'YAML',
  files: /\.ya?ml$/,
  comment: /(?:^|\s)#/,
  isBare: true,
  valuesOn: findCommandValues,
  reads: ['(?<!\\$)\\$\\{([A-Z][A-Z0-9_]*)\\b'],
})

/** Shorter texts are words; the shortest number that is a setting is a port. */
const SHORTEST = { text: 4, number: 2 } as const
/** `8120:8080`, and an address before it: what a service of compose is published as. */
const PUBLISHED = /^(?:[\d.]+:)?(\d{2,5}):\d{2,5}(?:\/\w+)?$/
/** `NAME=value` in a list, as compose has its variables. */
const ASSIGNED = /^(?:--)?([A-Za-z_][\w.-]*)=(.+)$/s

/** YAML (1.2), in all its styles. What can't be parsed, as templates can't, is read by lines. */
export const yaml: Language = {
  ...lines,
  read: readYaml,
  rewriting: yamlRewriting((text, file) => readYaml(text, file).literals),
}

function readYaml(text: string, file: string): Source {
  const byLines = lines.read(text, file)!
  const literals = parse(text, file)
  if (literals === null) return byLines
  // Commands stand in texts of several lines, which the lines know more of.
  const own = byLines.literals.filter(
    ({ start, end, names, callee }) =>
      (callee === 'curl' || callee === 'wget' || names.includes('authorization') || isOption(text, start)) &&
      !literals.some((each) => each.start <= start && end <= each.end && each.value.length === end - start),
  )
  const isOwn = (each: SourceLiteral) => own.some(({ start, end }) => each.start <= start && end <= each.end)
  return { ...byLines, literals: [...literals.filter((each) => !isOwn(each)), ...own] }
}

/** The names that say what a value is: below a list of variables that of the variable alone. */
function listTellingNames(names: readonly string[]): readonly string[] {
  const list = names.findLastIndex((each) => /^(?:environment|env|args|build_args)$/i.test(each))
  if (list >= 0 && list < names.length - 1) return names.slice(list + 1)
  const telling = names.filter(
    (each) => !/^(?:services|spec|template|containers|(?:string)?data|metadata|jobs|steps)$/i.test(each),
  )
  return telling.length > 0 ? telling : names
}

function isOption(text: string, start: number): boolean {
  return /(?:^|\s)--?[\w-]+[\s=]*$/.test(text.slice(Math.max(0, start - 60), start))
}

function parse(text: string, file: string): Source['literals'] | null {
  const { parseAllDocuments, visit, isScalar, isMap, isPair, isSeq } = createRequire(import.meta.url)(
    'yaml',
  ) as typeof import('yaml')
  if (/^\s*(?:\{\{-?|<%|\{%)/m.test(text)) return null
  const documents = parseAllDocuments(text, { logLevel: 'silent', uniqueKeys: false })
  if (!Array.isArray(documents) || documents.some(({ errors }) => errors.length > 0)) return null
  const placeOf = makeLocator(text)
  const found: SourceLiteral[] = []
  const listNames = (path: readonly unknown[]) => {
    const keys = path.flatMap((each) => (isPair(each) && isScalar(each.key) ? [String(each.key.value)] : []))
    // `- name: DOME_KEY` and its value below.
    const given = keys.at(-1) === 'value' ? path.findLast(isMap)?.get('name') : undefined
    return typeof given === 'string' ? [given] : listTellingNames(keys)
  }
  // `["serve", "--token", "..."]`
  const findOption = (key: unknown, path: readonly unknown[]) => {
    const before = typeof key === 'number' ? path.findLast(isSeq)?.get(key - 1) : undefined
    const option = typeof before === 'string' ? /^--([a-z][\w-]*)$/.exec(before)?.[1] : undefined
    return option === undefined ? [] : [option]
  }
  for (const document of documents)
    visit(document, {
      Scalar(key, node, path) {
        if (key === 'key' || node.range == null) return
        const names = [...listNames(path), ...findOption(key, path)]
        const whole = toWholeScalar(node.source ?? String(node.value ?? ''), node, names)
        const part = (typeof key === 'number' && readItem(whole, text)) || whole
        if (isValue(part)) found.push({ file, ...placeOf(part.start), ...part, callee: null, variable: null })
      },
    })
  return found
}

interface Scalar extends Pick<SourceLiteral, 'value' | 'start' | 'end' | 'names'> {
  readonly form: 'text' | 'number'
}

/** True for what may be a setting; placeholders of templates and pipelines are none. */
function isValue({ value, form }: Scalar): boolean {
  return value.length >= SHORTEST[form] && !/\{\{|\$\{\{/.test(value)
}

function toWholeScalar(value: string, { range, value: read }: import('yaml').Scalar, names: readonly string[]): Scalar {
  const [start, end] = range!
  return { value, start, end, names, form: typeof read === 'number' && /^\d+$/.test(value) ? 'number' : 'text' }
}

/** The value within an item of a list: behind the name of a variable, or a published port. */
function readItem({ value, start, end, names }: Scalar, text: string): Scalar | null {
  const from = start + text.slice(start, end).indexOf(value)
  const list = names.at(-1) ?? ''
  const [, name, assigned] = ASSIGNED.exec(value) ?? []
  if (name !== undefined && assigned !== undefined) {
    const around = /^(?:environment|env|args)$/i.test(list) ? [] : names
    return {
      value: assigned,
      start: from + value.length - assigned.length,
      end: from + value.length,
      names: [...around, name],
      form: 'text',
    }
  }
  const port = list === 'ports' ? PUBLISHED.exec(value)?.[1] : undefined
  if (port === undefined) return null
  const at = from + value.indexOf(port)
  return { value: port, start: at, end: at + port.length, names: [...names.slice(0, -1), 'port'], form: 'number' }
}
