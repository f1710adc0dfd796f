import type { Node, Program } from '@babel/types'
import { fs, path } from '@mappa/node/fs/builtin'
import { listImports } from '@mappa/source/javascript/imports'
import { readPlainName, visit } from '@mappa/source/javascript/tree'
import { findSource, moduleResolver } from '../../project/modules.ts'

/** What only a page has. A `document` may be anything, but not one with these members. */
const OF_BROWSERS =
  /^(window|localStorage|sessionStorage)\.|^document\.(getElement|querySelector|createElement|body$|cookie$|location$|addEventListener)/

/**
 * Finds the source files that pages load: the scripts of HTML files at the top of the project or in `src` and `public`,
 * and everything they import from it, also by the path aliases of the compiler.
 *
 * @returns absolute paths
 */
export function findBrowserFiles(root: string): ReadonlySet<string> {
  const found = new Set<string>()
  const open = [root, path.join(root, 'src'), path.join(root, 'public')].flatMap(findScripts(root))
  const resolve = moduleResolver(root)
  for (let file = open.pop(); file !== undefined; file = open.pop()) {
    if (found.has(file)) continue
    found.add(file)
    for (const specifier of listImports(fs.readFileSync(file, 'utf8'), file)) {
      const next = resolve(specifier, file)
      if (next !== null) open.push(next)
    }
  }
  return found
}

const findScripts =
  (root: string) =>
  (directory: string): string[] => {
    if (!fs.existsSync(directory)) return []
    return fs
      .readdirSync(directory)
      .filter((name) => name.endsWith('.html'))
      .flatMap((name) =>
        [
          ...fs.readFileSync(path.join(directory, name), 'utf8').matchAll(/<script[^>]*\ssrc=["']([^"']+)["']/gi),
        ].flatMap(
          ([, source]) =>
            findSource(source!.startsWith('/') ? path.join(root, source!) : path.resolve(directory, source!)) ?? [],
        ),
      )
  }

/** Where a source file runs that does not run on Node, as far as that shows in it: in a page, or in a worker without Node. */
export function runsElsewhere(tree: Program): 'browser' | 'worker' | null {
  if (tree.directives.some(({ value }) => value.value === 'use client')) return 'browser'
  let found: 'browser' | 'worker' | null = null
  visit(tree, (node, above) => {
    if (found !== null) return
    const member = readMember(node, above.at(-1))
    const isElement = node.type === 'JSXElement' || node.type === 'JSXFragment'
    const isBuiltIn = node.type === 'MetaProperty' && /\benv$/.test(member)
    if (isElement || isBuiltIn || OF_BROWSERS.test(member)) found = 'browser'
    else if (OF_WORKERS.test(member) || isWorkerEntry(node)) found = 'worker'
  })
  return found
}

/** `document.cookie` for the first of the two; empty where no member of it is read. */
function readMember(node: Node, parent: Node | undefined): string {
  if (parent?.type !== 'MemberExpression' || parent.object !== node) return ''
  const { property } = parent
  return `${readPlainName(node)}.${property.type === 'Identifier' ? property.name : ''}`
}

/** What only workers of a browser have. */
const OF_WORKERS =
  /^self\.(addEventListener|skipWaiting|registration|clients|importScripts|postMessage|onmessage|onfetch)$/

/** `export default { fetch(request, env) { ... } }`, or `export const runtime = 'edge'`: code for workers of a platform. */
function isWorkerEntry(node: Node): boolean {
  if (node.type === 'ExportDefaultDeclaration')
    return node.declaration.type === 'ObjectExpression' && node.declaration.properties.some(isFetch)
  if (node.type !== 'ExportNamedDeclaration' || node.declaration?.type !== 'VariableDeclaration') return false
  return node.declaration.declarations.some(
    ({ id, init }) => readPlainName(id) === 'runtime' && /^(experimental-)?edge$/.test(readPlainName(init)),
  )
}

function isFetch(member: Node): boolean {
  if (member.type !== 'ObjectMethod' && member.type !== 'ObjectProperty') return false
  const isFunction = member.type === 'ObjectMethod' || /^(Arrow)?FunctionExpression$/.test(member.value.type)
  return isFunction && readPlainName(member.key) === 'fetch'
}
