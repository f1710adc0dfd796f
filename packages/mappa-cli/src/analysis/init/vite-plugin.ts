import type { ArrayExpression, Node, ObjectExpression, Program } from '@babel/types'
import { applyEdits, type TextEdit } from '@mappa/core/text/edits'
import { fs, path } from '@mappa/node/fs/builtin'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { parseSource } from '@mappa/source/javascript/parser'
import { getRange } from '@mappa/source/javascript/place'
import { readPlainName, visit } from '@mappa/source/javascript/tree'
import { findMember, unwrap } from '../definition/parse.ts'
import { importEdit } from '../move/import-statement.ts'

/** What becomes of the configuration of Vite. */
export interface PluginPlan {
  /** Relative to the root. */
  readonly file: string
  /** `by hand` where the file is written in a way that can't be changed safely. */
  readonly state: 'added' | 'there' | 'by hand'
  /** The text with the plugin; `null` where nothing is to be written. */
  readonly after: string | null
}

const ENDINGS = ['ts', 'mts', 'js', 'mjs', 'cts', 'cjs']
const PLUGIN = 'mappa-settings/vite'

/**
 * Plans how the plugin comes into the configuration of Vite, so that pages get their values.
 *
 * @param inlineReads true where page code reads `import.meta.env`, and goes on doing so
 */
export function planPlugin(root: string, { inlineReads }: { readonly inlineReads: boolean }): PluginPlan {
  const call = inlineReads ? "mappa({ inlineReads: ['import.meta.env'] })" : 'mappa()'
  const file = ENDINGS.map((ending) => `vite.config.${ending}`).find((each) => fs.existsSync(path.join(root, each)))
  if (file === undefined) return { file: chooseNewFile(root), state: 'added', after: writeConfiguration(call) }
  const text = readRegularText(path.join(root, file), file) ?? ''
  if (text.includes(PLUGIN)) return { file, state: 'there', after: null }
  const after = addPlugin(text, file, call)
  return { file, state: after === null ? 'by hand' : 'added', after }
}

function chooseNewFile(root: string): string {
  return fs.existsSync(path.join(root, 'tsconfig.json')) ? 'vite.config.ts' : 'vite.config.mjs'
}

function writeConfiguration(call: string): string {
  return `import mappa from '${PLUGIN}'\nimport { defineConfig } from 'vite'\n\nexport default defineConfig({\n  plugins: [${call}],\n})\n`
}

/** The configuration with the plugin behind those that it has; `null` where there is no place that is surely the right one. */
function addPlugin(text: string, file: string, call: string): string | null {
  const tree = /\.c[jt]s$/.test(file) ? null : parseSource(text, file)
  if (tree === null || isTaken(tree, 'mappa')) return null
  const exported = tree.body.find((each) => each.type === 'ExportDefaultDeclaration')
  const object = exported === undefined ? null : findObject(exported.declaration, tree)
  if (object === null) return null
  const edit = insertPlugin(text, object, call)
  const write = (quote: string, end: string) => `import mappa from ${quote}${PLUGIN}${quote}${end}`
  return edit === null ? null : applyEdits(text, [importEdit(text, tree, { write }), edit])
}

function isTaken(tree: Program, name: string): boolean {
  let isFound = false
  visit(tree, (node) => {
    isFound ||= node.type === 'Identifier' && node.name === name
  })
  return isFound
}

/** The object of a configuration: itself, given to a call such as `defineConfig`, returned by a function, or kept under a name. */
function findObject(node: Node | null | undefined, tree: Program): ObjectExpression | null {
  const own = unwrap(node)
  switch (own?.type) {
    case 'ObjectExpression':
      return own
    case 'CallExpression':
      return own.arguments.length === 1 ? findObject(own.arguments[0], tree) : null
    case 'ArrowFunctionExpression':
    case 'FunctionExpression':
      return findObject(own.body.type === 'BlockStatement' ? findOnlyReturn(own.body.body) : own.body, tree)
    case 'Identifier':
      return findObject(findConstant(tree, own.name), tree)
    default:
      return null
  }
}

/** What a function returns that ends in one way only. */
function findOnlyReturn(body: readonly Node[]): Node | null {
  const last = body.at(-1)
  const others = body.slice(0, -1)
  const isPlain = others.every(({ type }) => type === 'VariableDeclaration' || type === 'ExpressionStatement')
  return isPlain && last?.type === 'ReturnStatement' ? (last.argument ?? null) : null
}

function findConstant({ body }: Program, name: string): Node | null {
  const all = body.flatMap((each) =>
    each.type === 'VariableDeclaration' && each.kind === 'const' ? each.declarations : [],
  )
  return all.find(({ id }) => readPlainName(id) === name)?.init ?? null
}

function insertPlugin(text: string, object: ObjectExpression, call: string): TextEdit | null {
  const member = findMember(object, 'plugins')
  if (member === undefined) return insertMember(text, object, `plugins: [${call}]`)
  const list = findList(member.value)
  return list === null ? null : insertLast(text, list, call)
}

/** The list of plugins, also where something is done with it: `[...].filter(Boolean)`. */
function findList(node: Node): ArrayExpression | null {
  const own = unwrap(node)
  if (own?.type === 'ArrayExpression') return own
  if (own?.type !== 'CallExpression' || own.callee.type !== 'MemberExpression') return null
  return findList(own.callee.object)
}

function insertMember(text: string, object: ObjectExpression, member: string): TextEdit {
  const { start } = getRange(object)
  const [first] = object.properties
  if (first === undefined) return { from: start + 1, to: getRange(object).end - 1, by: ` ${member} ` }
  const gap = text.slice(start + 1, getRange(first).start)
  const [lead = gap] = /^\s*/.exec(gap) ?? []
  return { from: start + 1, to: start + 1, by: `${lead}${member},` }
}

function insertLast(text: string, list: ArrayExpression, call: string): TextEdit {
  const { start, end } = getRange(list)
  const last = list.elements.at(-1)
  if (last == null) return { from: start + 1, to: end - 1, by: call }
  const { end: at } = getRange(last)
  const line = text.slice(text.lastIndexOf('\n', getRange(last).start) + 1, getRange(last).start)
  const isOwnLine = /^\s*$/.test(line)
  return { from: at, to: at, by: isOwnLine ? `,\n${line}${call}` : `, ${call}` }
}
