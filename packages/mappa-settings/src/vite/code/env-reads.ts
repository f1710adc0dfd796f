import { readFileSync } from 'node:fs'
import { relative } from 'node:path'
import { readProblem } from '@mappa/core/page/read-problem'
import { listReplacements } from '@mappa/core/page/replacements'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import type { Reporter } from '@mappa/core/problems/reporter'
import { toPosition } from '@mappa/core/text/position'
import { toLiteral } from '@mappa/core/values/literal'
import { type EnvironmentRead, findEnvironmentReads } from '@mappa/source/javascript/environment-reads'
import type { SyntaxNode } from '@mappa/source/javascript/syntax-node'
import type { Inlinable } from '../session/options.ts'
import type { ProjectState } from '../session/project-state.ts'
import { parseCode } from './parse.ts'
import { type Spliced, splice } from './splice.ts'

/** Files that are no code at this time, whatever their text looks like. */
const NO_CODE = /\.(?:css|less|sass|scss|styl|stylus|pcss|postcss|sss|html?|json|svg|md|txt)(?:$|\?)/

/** What the transformation has to know. */
export interface EnvReads {
  readonly inlineReads: readonly Inlinable[]
  /** Names that Vite or the project's own configuration give a value, by object. */
  readonly known: Readonly<Record<Inlinable, ReadonlySet<string>>>
}

/**
 * Puts texts of public settings in the place of reads of an environment, and finds those that would give nothing.
 *
 * @param page true for page code, where a name without a value is an error
 * @param reporter is told of every such name
 * @returns the new code; `null` where nothing changes
 */
export function replaceReads(
  code: string,
  id: string,
  state: ProjectState,
  { inlineReads, known }: EnvReads,
  page: boolean,
  reporter: Reporter,
): Spliced | null {
  if (NO_CODE.test(id)) return null
  const file = id.replace(/[?#].*$/, '')
  // What a framework's plugin makes of its own files is plain JavaScript.
  const isScript = /\.[cm]?[jt]sx?$/.test(file)
  const program = parseCode(isScript ? `${file}.tsx` : `${file}.ts`, code)
  if (program === null) {
    // What is wrong with JavaScript is for Vite to say.
    if (page && !isScript) reporter.report(inOtherLanguage(file, code, state))
    return null
  }
  const texts = listReplacements(state.inspection?.settings ?? [])
  const table = new Map([...texts].map(([name, text]) => [name, toLiteral(text)!]))
  const own = findEnvironmentReads(program).filter(({ object, name }) => name === null || !known[object].has(name))
  const replaced = own.flatMap((read): ReplacedRead[] => {
    const value = read.name === null ? undefined : table.get(read.name)
    if (inlineReads.includes(read.object) && value !== undefined) return [{ read, value }]
    if (page) reportFault(read, file, state, inlineReads, value !== undefined, reporter)
    return []
  })
  const single = replaced.filter((each) => !each.read.destructured)
  return splice(code, id, [
    ...single.map(({ read: { node }, value: text }) => ({
      ...toRange(node),
      text: text === 'undefined' ? text : `(${text})`,
    })),
    ...[...groupMembers(replaced)].map(([node, members]) => {
      const rest = code.slice(node.start, node.end)
      const kept = rest === 'process.env' ? 'NODE_ENV: process.env.NODE_ENV' : `...${rest}`
      return { ...toRange(node), text: `({ ${kept}, ${members.join(', ')} })` }
    }),
  ])
}

const toRange = ({ start, end }: SyntaxNode) => ({ start, end })

/** A read, and the expression that takes its place. */
interface ReplacedRead {
  readonly read: EnvironmentRead
  readonly value: string
}

/** The members to put into each object out of which names are taken. */
function groupMembers(replaced: readonly ReplacedRead[]): ReadonlyMap<SyntaxNode, readonly string[]> {
  const members = new Map<SyntaxNode, string[]>()
  for (const { read, value } of replaced)
    if (read.destructured) members.set(read.node, [...(members.get(read.node) ?? []), `${read.name}: ${value}`])
  return members
}

function inOtherLanguage(file: string, code: string, { root }: ProjectState): Problem {
  const object = /\bimport\.meta\.env\b/.test(code) ? 'import.meta.env' : 'process.env'
  return pageProblem('read-in-other-language', { object }, { file: relative(root, file), ...getLine(file, object) })
}

/** Says what is wrong with a read in page code that is not replaced, unless it means something else. */
function reportFault(
  { object, name }: EnvironmentRead,
  file: string,
  state: ProjectState,
  inlineReads: readonly Inlinable[],
  hasValue: boolean,
  reporter: Reporter,
): void {
  const isInlined = inlineReads.includes(object)
  if (name === null) {
    if (isInlined) reporter.report(pageProblem('read-dynamic', { object }, getPlace(file, object, state)))
  } else if (isInlined || object === 'import.meta.env') reporter.report(toProblem(object, name, file, state, hasValue))
}

function toProblem(object: Inlinable, name: string, file: string, state: ProjectState, hasValue: boolean): Problem {
  const read = `${object}.${name}`
  const place = getPlace(file, read, state)
  const settings = state.definition?.settings ?? []
  const setting = settings.find((each) => each.name === name || each.formerly.includes(name))
  const fault = hasValue ? null : readProblem(read, name, settings, place)
  const path = setting?.path ?? ''
  return fault ?? pageProblem('read-not-inlined', { read, path, object }, { ...place, name, setting: path })
}

function getPlace(file: string, read: string, { root }: ProjectState) {
  return { file: relative(root, file), ...getLine(file, read) }
}

/** Where a text first stands in a file as it was written; the code at hand has been changed by others. */
function getLine(file: string, text: string): { line: number; column: number } | null {
  try {
    const source = readFileSync(file, 'utf8')
    const at = source.search(new RegExp(`${text.replaceAll('.', '\\.')}(?![\\w$])`))
    return at < 0 ? null : toPosition(source, at)
  } catch {
    return null
  }
}
