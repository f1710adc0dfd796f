import { readFileSync } from 'node:fs'
import type { SyntaxNode } from '@mappa/source/javascript/syntax-node'
import { isNode, readPlainName, visit } from '@mappa/source/javascript/tree'
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
  } else visit(tree, [], (node) => collect(node, found))
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

const STATEMENTS = new Set(['ImportDeclaration', 'ExportNamedDeclaration', 'ExportAllDeclaration', 'ImportExpression'])

function collect(node: SyntaxNode, found: { specifier: string; start: number; end: number }[]): void {
  if (STATEMENTS.has(node.type)) {
    // A type is gone before anything is bundled.
    if (node.importKind === 'type' || node.exportKind === 'type') return
    for (const specifier of findTexts(node.source)) found.push({ specifier, start: node.start, end: node.end })
  } else if ((node.type === 'CallExpression' || node.type === 'NewExpression') && namesModules(node.callee)) {
    const [first] = node.arguments as unknown[]
    for (const specifier of findTexts(first)) found.push({ specifier, start: node.start, end: node.end })
  }
}

/** True for what is called with the name of a module. */
function namesModules(callee: unknown): boolean {
  const { type, name, property } = callee as SyntaxNode
  if (type === 'MemberExpression') return /^glob/.test(readPlainName(property))
  return name === 'require' || name === 'URL' || name === 'Worker' || name === 'SharedWorker'
}

/** The fixed texts of an argument: one, or those of a list. */
function findTexts(node: unknown): string[] {
  if (!isNode(node)) return []
  if (node.type === 'Literal') return typeof node.value === 'string' ? [node.value] : []
  if (node.type === 'ArrayExpression') return (node.elements as unknown[]).flatMap(findTexts)
  const quasis = node.type === 'TemplateLiteral' ? (node.quasis as { value: { cooked: string } }[]) : []
  // With variables in it, a bundler takes it for every file that fits.
  return quasis.length === 0 ? [] : [quasis.map(({ value }) => value.cooked).join('*')]
}
