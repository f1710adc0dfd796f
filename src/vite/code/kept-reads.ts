import { readFileSync } from 'node:fs'
import { relative } from 'node:path'
import MagicString from 'magic-string'
import { parseSync } from 'vite'
import { replacementsOf } from '../../core/page/replacements.ts'
import { pageProblem } from '../../core/problems/of-pages.ts'
import type { Problem } from '../../core/problems/problem.ts'
import { nearestOf } from '../../core/text/near.ts'
import type { SyntaxNode } from '../../node/source/parser.ts'
import { isNode, plainName, visit } from '../../node/source/tree.ts'
import type { Keepable } from '../options.ts'
import type { Look } from '../project.ts'

/** Files that are no code at this time, whatever their text looks like. */
const NO_CODE = /\.(?:css|less|sass|scss|styl|stylus|pcss|postcss|sss|html?|json|svg|md|txt)(?:$|\?)/

/** What the transformation has to know. */
export interface KeptReads {
  readonly keep: readonly Keepable[]
  /** Names that Vite or the project's own configuration give a value, by object. */
  readonly known: Readonly<Record<Keepable, ReadonlySet<string>>>
}

/** Code with values in the place of reads, and what is wrong with others. */
export interface Replaced {
  readonly code: string
  readonly map: ReturnType<MagicString['generateMap']>
}

/** A read of an environment. */
interface Read {
  readonly object: Keepable
  /** `null` where the name is not written out. */
  readonly name: string | null
  readonly node: SyntaxNode
  /** Where one of several names is taken out of the object: the object itself stays, and gets members. */
  readonly destructured: boolean
}

/**
 * Puts texts of public settings in the place of reads of an environment, and finds those that would give nothing.
 *
 * @param page true for page code, where a name without a value is an error
 * @param problems gets every such name
 * @returns the new code; `null` where nothing changes
 */
export function replaceReads(
  code: string,
  id: string,
  look: Look,
  { keep, known }: KeptReads,
  page: boolean,
  problems: Problem[],
): Replaced | null {
  if (NO_CODE.test(id)) return null
  const file = id.replace(/[?#].*$/, '')
  // What a framework's plugin makes of its own files is plain JavaScript.
  const isScript = /\.[cm]?[jt]sx?$/.test(file)
  const { program, errors } = parseSync(isScript ? `${file}.tsx` : `${file}.ts`, code)
  if (errors.length > 0) {
    const object = /\bimport\.meta\.env\b/.test(code) ? 'import.meta.env' : 'process.env'
    // What is wrong with JavaScript is for Vite to say.
    if (page && !isScript) {
      problems.push(
        pageProblem('read-in-other-language', { object }, { file: relative(look.root, file), ...lineOf(file, object) }),
      )
    }
    return null
  }
  const table = replacementsOf(look.inspection?.settings ?? [])
  const text = new MagicString(code)
  const additions = new Map<SyntaxNode, string[]>()
  for (const { object, name, node, destructured } of readsIn(program as unknown as SyntaxNode)) {
    const kept = keep.includes(object)
    if (name === null) {
      if (page && kept) problems.push(pageProblem('read-dynamic', { object }, placeOf(file, object, look)))
      continue
    }
    if (known[object].has(name)) continue
    const value = table.get(name)
    if (kept && value !== undefined) {
      if (destructured) additions.set(node, [...(additions.get(node) ?? []), `${name}: ${value}`])
      else text.update(node.start, node.end, value === 'undefined' ? 'undefined' : `(${value})`)
    } else if (page && (kept || object === 'import.meta.env')) {
      problems.push(problemOf(object, name, file, look, value !== undefined))
    }
  }
  for (const [node, members] of additions) {
    const rest = code.slice(node.start, node.end)
    const own = rest === 'process.env' ? 'NODE_ENV: process.env.NODE_ENV' : `...${rest}`
    text.update(node.start, node.end, `({ ${own}, ${members.join(', ')} })`)
  }
  return text.hasChanged() ? { code: text.toString(), map: text.generateMap({ hires: 'boundary', source: id }) } : null
}

function readsIn(program: SyntaxNode): Read[] {
  const reads: Read[] = []
  let ownProcess = false
  visit(program, [], (node, above) => {
    if (node.type === 'VariableDeclarator' || node.type === 'ImportDefaultSpecifier' || node.type === 'ImportSpecifier')
      ownProcess ||= plainName(node.id ?? node.local) === 'process'
    const object = environmentOf(node)
    if (object === null) return
    const parent = above.at(-1)
    const add = (name: string | null, place: SyntaxNode, destructured = false) =>
      reads.push({ object, name, node: place, destructured })
    if (parent?.type === 'MemberExpression' && parent.object === node) {
      const outer = above.at(-2)
      const written =
        (outer?.type === 'AssignmentExpression' && outer.left === parent) ||
        outer?.type === 'UpdateExpression' ||
        (outer?.type === 'UnaryExpression' && outer.operator === 'delete')
      if (!written) add(nameOf(parent), parent)
    } else if (parent?.type === 'VariableDeclarator' && (parent.id as SyntaxNode).type === 'ObjectPattern') {
      for (const each of (parent.id as SyntaxNode).properties as SyntaxNode[]) {
        add(each.type === 'Property' && each.computed !== true ? plainName(each.key) : null, node, true)
      }
    } else add(null, node)
    return false
  })
  return reads.filter(({ object }) => object !== 'process.env' || !ownProcess)
}

/** Which environment a node is, if any: `import.meta.env` or `process.env`. */
function environmentOf(node: SyntaxNode): Keepable | null {
  if (node.type !== 'MemberExpression' || node.computed === true || plainName(node.property) !== 'env') return null
  const object = node.object as SyntaxNode
  if (object.type === 'MetaProperty') return plainName(object.property) === 'meta' ? 'import.meta.env' : null
  return object.type === 'Identifier' && object.name === 'process' ? 'process.env' : null
}

function nameOf({ property, computed }: SyntaxNode): string | null {
  if (computed !== true) return plainName(property)
  return isNode(property) && typeof property.value === 'string' ? property.value : null
}

function problemOf(object: Keepable, name: string, file: string, look: Look, hasValue: boolean): Problem {
  const read = `${object}.${name}`
  const settings = look.definition?.settings ?? []
  const setting = settings.find((each) => each.name === name || each.formerly.includes(name))
  const place = { ...placeOf(file, read, look), name, setting: setting?.path ?? null }
  if (setting === undefined) {
    const near = nearestOf(settings.map((each) => each.name))(name)
    return pageProblem('read-unknown', { read, near }, place)
  }
  const { path } = setting
  if (hasValue) return pageProblem('read-not-kept', { read, path, object }, place)
  return setting.public
    ? pageProblem('read-at-start', { read, path }, place)
    : pageProblem('read-not-public', { read, path, what: setting.secret ? 'a secret' : 'not public' }, place)
}

function placeOf(file: string, read: string, { root }: Look) {
  return { file: relative(root, file), ...lineOf(file, read) }
}

/** Where a text first stands in a file as it was written; the code at hand has been changed by others. */
function lineOf(file: string, text: string): { line: number; column: number } | null {
  try {
    const source = readFileSync(file, 'utf8')
    const at = source.search(new RegExp(`${text.replaceAll('.', '\\.')}(?![\\w$])`))
    const before = source.slice(0, Math.max(at, 0)).split('\n')
    return at < 0 ? null : { line: before.length, column: before.at(-1)!.length + 1 }
  } catch {
    return null
  }
}
