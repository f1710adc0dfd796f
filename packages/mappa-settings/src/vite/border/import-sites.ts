import { readFileSync } from 'node:fs'
import { readPlainName, visit } from '@mappa/source/javascript/tree'
import type { ESTree } from 'vite'
import { parseCode } from '../code/parse.ts'

/** A place in a source where another module is named. */
export interface ImportSite {
  /** What is written there, such as `./settings.ts`. */
  readonly specifier: string
  /** Line and column, from 1. */
  readonly line: number
  readonly column: number
  /** The statement, on one line, cut where it is long. It holds names of modules and of what they export, and no values. */
  readonly text: string
}

/** Imports and exports of nothing but types. */
const OF_TYPES = /\b(?:import|export)\s+type\b[^'"`;]*\bfrom\s*(["'`])[^"'`]*\1/g

/** What names another module, up to its name: a whole statement where there is one. */
const SITES =
  /(?:\b(?:import|export)\b[^'"`;()]*?\bfrom|\bfrom|\bimport|\brequire|\bsrc\s*=)\s*\(?\s*(["'`])([^"'`]+)\1/g

/** Longer statements are cut, in characters. */
const WIDEST = 90

/**
 * Every place in a file where it names other modules: imports, re-exports, calls of `import` and `require`, `new URL` and
 * `import.meta.glob`. In a file that Vite can't parse, as of a framework, texts behind `from` and the like count.
 *
 * @param file the absolute path
 */
export function listImportSites(file: string): ImportSite[] {
  let source: string
  try {
    source = readFileSync(file, 'utf8')
  } catch {
    return []
  }
  const tree = /\.[cm]?[jt]sx?$/.test(file) ? parseCode(file, source) : null
  const found: { specifier: string; start: number; end: number }[] = []
  if (tree === null) {
    // A type is gone before anything is bundled; what stands there keeps its place.
    const code = source.replace(OF_TYPES, (each) => each.replace(/[^\n]/g, ' '))
    for (const match of code.matchAll(SITES))
      found.push({ specifier: match[2]!, start: match.index, end: match.index + match[0].length })
  } else visit<ESTree.Node>(tree, (node) => collect(node, found))
  return found.map(({ specifier, start, end }) => {
    const before = source.slice(0, start).split('\n')
    const text = source.slice(start, end).replace(/\s+/g, ' ')
    return {
      specifier,
      line: before.length,
      column: before.at(-1)!.length + 1,
      text: text.length > WIDEST ? `${text.slice(0, WIDEST - 1)}…` : text,
    }
  })
}

function collect(node: ESTree.Node, found: { specifier: string; start: number; end: number }[]): void {
  for (const specifier of listSpecifiers(node)) found.push({ specifier, start: node.start, end: node.end })
}

/** The modules that a node names; none where it names types, which are gone before anything is bundled. */
function listSpecifiers(node: ESTree.Node): string[] {
  switch (node.type) {
    case 'ImportDeclaration':
      return node.importKind === 'type' ? [] : findTexts(node.source)
    case 'ExportNamedDeclaration':
    case 'ExportAllDeclaration':
      return node.exportKind === 'type' ? [] : findTexts(node.source)
    case 'ImportExpression':
      return findTexts(node.source)
    case 'CallExpression':
    case 'NewExpression':
      return namesModules(node.callee) ? findTexts(node.arguments[0]) : []
    default:
      return []
  }
}

/** True for what is called with the name of a module. */
function namesModules(callee: ESTree.Node): boolean {
  if (callee.type === 'MemberExpression') return readPlainName(callee.property).startsWith('glob')
  return callee.type === 'Identifier' && LOADERS.has(callee.name)
}

const LOADERS: ReadonlySet<string> = new Set(['require', 'URL', 'Worker', 'SharedWorker'])

/** The fixed texts of an argument: one, or those of a list. */
function findTexts(node: ESTree.Node | null | undefined): string[] {
  switch (node?.type) {
    case 'Literal':
      return typeof node.value === 'string' ? [node.value] : []
    case 'ArrayExpression':
      return node.elements.flatMap(findTexts)
    case 'TemplateLiteral':
      // With variables in it, a bundler takes it for every file that fits.
      return [node.quasis.map(({ value }) => value.cooked).join('*')]
    default:
      return []
  }
}
