import type { ArrayExpression, BlockStatement, Expression, Node, ObjectExpression, Statement } from '@babel/types'
import { applyEdits, type TextEdit } from '@mappa/core/text/edits'
import { path } from '@mappa/node/fs/builtin'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { parseSource } from '@mappa/source/javascript/parser'
import { getRange } from '@mappa/source/javascript/place'
import { readPlainName, visit } from '@mappa/source/javascript/tree'
import type { FileChange } from '../../project/update-files.ts'
import { findMember, unwrap } from '../definition/parse.ts'
import { findQuote, importEdit } from './import-statement.ts'

/** What has to happen to the configuration of Vite, so that pages get settings. */
export interface PluginChange {
  /** Relative to the root. */
  readonly file: string
  /** `null` where the plugin is to be added manually. */
  readonly change: FileChange | null
}

/**
 * Adds the plugin to the configuration of Vite, which is written where there is none.
 *
 * @param keeps true for pages that read `import.meta.env`, and go on doing so
 * @param others changes of other files, of which one may be that of the configuration: the plugin is added to what it becomes
 * @returns `null` where it is there already
 */
export function planPluginChange(
  root: string,
  { keeps }: { readonly keeps: boolean },
  others: readonly FileChange[] = [],
): PluginChange | null {
  const call = (quote: string) => (keeps ? `mappa({ inlineReads: [${quote}import.meta.env${quote}] })` : 'mappa()')
  const texts = ['ts', 'mts', 'js', 'mjs', 'cts', 'cjs'].flatMap((each) => {
    const file = `vite.config.${each}`
    const text = readRegularText(path.join(root, file), file)
    return text === null ? [] : [{ file, text }]
  })
  const [found] = texts
  if (found === undefined) {
    const file = readRegularText(path.join(root, 'tsconfig.json')) === null ? 'vite.config.mjs' : 'vite.config.ts'
    return { file, change: { file, before: null, after: writeConfig(call("'")) } }
  }
  const { file, text } = found
  if (text.includes('mappa-settings/vite')) return null
  const written = others.find((each) => each.file === file)?.after ?? text
  const after = withPlugin(written, file, call(findQuote(text)))
  return { file, change: after === null ? null : { file, before: text, after } }
}

/** True for a text that reads a variable which Vite does not set itself. */
export function readsBuiltVariable(text: string): boolean {
  return KEPT.test(text)
}

const KEPT = /\bimport\.meta\.env\.(?!(?:MODE|BASE_URL|PROD|DEV|SSR|LEGACY)\b)\w|%VITE_[A-Z0-9_]+%/

const writeConfig = (call: string) => `import mappa from 'mappa-settings/vite'
import { defineConfig } from 'vite'

export default defineConfig({ plugins: [${call}] })
`

/** The configuration with the plugin in it; `null` where it is written in a way that can't be changed safely. */
function withPlugin(text: string, file: string, call: string): string | null {
  const tree = parseSource(text, file)
  if (tree === null || usesName(tree, 'mappa')) return null
  const exported = tree.body.find((each) => each.type === 'ExportDefaultDeclaration')
  const config = findConfig(exported?.declaration, tree.body)
  const edit = config === null ? null : makePluginEdit(text, config, call)
  if (edit === null) return null
  const write = (quote: string, end: string) => `import mappa from ${quote}mappa-settings/vite${quote}${end}`
  const added = importEdit(text, tree, { write })
  return applyEdits(text, [edit, added])
}

function usesName(tree: Node, wanted: string): boolean {
  let used = false
  visit(tree, (node) => {
    if (node.type === 'Identifier' && node.name === wanted) used = true
  })
  return used
}

/** The object that a configuration is: as it is exported, given to a function, or given back by one. */
function findConfig(node: Node | null | undefined, body: readonly Statement[]): ObjectExpression | null {
  switch (node?.type) {
    case 'ObjectExpression':
      return node
    case 'TSAsExpression':
    case 'TSSatisfiesExpression':
    case 'ParenthesizedExpression':
      return findConfig(node.expression, body)
    case 'CallExpression':
      return node.arguments.length === 1 ? findConfig(node.arguments[0], body) : null
    case 'ArrowFunctionExpression':
    case 'FunctionExpression':
      return findConfig(findReturned(node.body), body)
    case 'Identifier':
      return findConfig(findAssigned(node.name, body), body)
    default:
      return null
  }
}

/** What a function returns, where it returns one thing only. */
function findReturned(inner: BlockStatement | Expression): Node | null | undefined {
  if (inner.type !== 'BlockStatement') return inner
  const found: (Expression | null | undefined)[] = []
  visit(inner, (node) => {
    if (node.type === 'ReturnStatement') found.push(node.argument)
    return !/Function|Method/.test(node.type)
  })
  return found.length === 1 ? found[0] : null
}

function findAssigned(name: string, body: readonly Statement[]): Node | null | undefined {
  const declared = body.flatMap((each) => (each.type === 'VariableDeclaration' ? each.declarations : []))
  return declared.find(({ id }) => readPlainName(id) === name)?.init
}

/** First among the plugins: what the plugin refuses, no other has to see. */
function makePluginEdit(text: string, config: ObjectExpression, call: string): TextEdit | null {
  const members = config.properties
  const plugins = findMember(config, 'plugins')
  if (plugins === undefined) {
    const at = getRange(config).start + 1
    if (members.length === 0) return { from: at, to: getRange(config).end - 1, by: ` plugins: [${call}] ` }
    const by = listed(`plugins: [${call}]`, text, at, false)
    return members.some(({ type }) => type !== 'ObjectProperty') ? null : { from: at, to: at, by }
  }
  const list = findList(plugins.value)
  if (list === null) return null
  const at = getRange(list).start + 1
  return { from: at, to: at, by: listed(call, text, at, list.elements.length === 0) }
}

/** The list of plugins, also where something is done with it: `[...].filter(Boolean)`. */
function findList(node: Node | null): ArrayExpression | null {
  const own = unwrap(node)
  if (own?.type === 'ArrayExpression') return own
  if (own?.type !== 'CallExpression' || own.callee.type !== 'MemberExpression') return null
  return findList(own.callee.object)
}

/** A member as the first of a list, on a line of its own where the others are. */
function listed(member: string, text: string, at: number, isOnly: boolean): string {
  const [gap] = /^\s*/.exec(text.slice(at))!
  if (gap.includes('\n')) return isOnly ? member : `${gap}${member},`
  return isOnly ? member : `${gap}${member},${gap === '' ? ' ' : ''}`
}
