import { fs, path } from '@mappa/node/fs/builtin'
import { listImports } from '@mappa/source/javascript/imports'
import type { SyntaxNode } from '@mappa/source/javascript/parser'
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
export function runsElsewhere(tree: SyntaxNode): 'browser' | 'worker' | null {
  const directives = (tree.directives ?? []) as SyntaxNode[]
  if (directives.some((each) => (each.value as { value?: unknown } | undefined)?.value === 'use client'))
    return 'browser'
  let found: 'browser' | 'worker' | null = null
  visit(tree, [], (node, above) => {
    if (found !== null) return
    const { type, name } = node
    const parent = above.at(-1)
    const isObject = parent?.type === 'MemberExpression' && parent.object === node
    const member = isObject ? String((parent.property as SyntaxNode).name) : ''
    if (
      type === 'JSXElement' ||
      type === 'JSXFragment' ||
      (isObject && OF_BROWSERS.test(`${String(name)}.${member}`)) ||
      (type === 'MetaProperty' && parent?.type === 'MemberExpression' && (parent.property as SyntaxNode).name === 'env')
    )
      found = 'browser'
    else if ((isObject && OF_WORKERS.test(`${String(name)}.${member}`)) || isWorkerEntry(node)) found = 'worker'
  })
  return found
}

/** What only workers of a browser have. */
const OF_WORKERS =
  /^self\.(addEventListener|skipWaiting|registration|clients|importScripts|postMessage|onmessage|onfetch)$/

/** `export default { fetch(request, env) { ... } }`, or `export const runtime = 'edge'`: code for workers of a platform. */
function isWorkerEntry({ type, declaration }: SyntaxNode): boolean {
  const declared = (declaration ?? null) as SyntaxNode | null
  if (type === 'ExportDefaultDeclaration' && declared?.type === 'ObjectExpression') {
    return (declared.properties as SyntaxNode[]).some(
      (each) => readPlainName(each.key) === 'fetch' && (each.type === 'ObjectMethod' || isFunction(each.value)),
    )
  }
  if (type !== 'ExportNamedDeclaration' || declared?.type !== 'VariableDeclaration') return false
  return (declared.declarations as SyntaxNode[]).some(
    ({ id, init }) => readPlainName(id) === 'runtime' && /^(experimental-)?edge$/.test(readPlainName(init)),
  )
}

function isFunction(node: unknown): boolean {
  return /^(Arrow)?FunctionExpression$/.test((node as SyntaxNode | null)?.type ?? '')
}
