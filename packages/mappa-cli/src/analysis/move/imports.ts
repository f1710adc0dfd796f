import type { TextEdit } from '@mappa/core/text/edits'
import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import type { SyntaxNode } from '@mappa/source/javascript/parser'
import { readPlainName, visit } from '@mappa/source/javascript/tree'
import { chooseEndingStyle, withEnding } from './import-paths.ts'
import { importEdit } from './import-statement.ts'
import type { SettingsModule } from './settings-module.ts'

/** How a source file gets at the typed settings. */
export interface SettingsImport {
  /** The name under which it knows them. */
  readonly local: string
  /** The edit that adds the import; `null` where it is there. */
  readonly edit: TextEdit | null
}

/**
 * Finds out how a file gets at the typed settings: by an import that it has, or by one that is added after its others.
 * What is added has the quotes, semicolons, line ends and kind of path that the file has.
 *
 * @param tree the file, parsed
 * @param file its absolute path
 * @param moduleType what a file of this ending is by its package, where nothing in it tells
 * @param firstUse where the settings are read first
 */
export function findSettingsImport(
  text: string,
  tree: SyntaxNode,
  file: string,
  module: SettingsModule,
  moduleType: 'module' | 'commonjs',
  firstUse: number,
): SettingsImport {
  const body = tree.body as readonly SyntaxNode[]
  const imports = body.flatMap((node) => readImported(node) ?? [])
  const isVirtual = module.file.startsWith('virtual:')
  const own = imports.find(({ source }) =>
    isVirtual ? source === module.file : isSame(path.resolve(path.dirname(file), source), module.file),
  )
  const known = own?.names.get(module.exported)
  // One that a call of require brings in below the first use comes too late.
  const isInTime = own?.node.type === 'ImportDeclaration' || (own?.node.end ?? 0) <= firstUse
  if (known !== undefined && isInTime) return { local: known, edit: null }
  const local = chooseFreeName(tree)
  const isModule =
    imports.some(({ node }) => node.type === 'ImportDeclaration') || isModuleFile(text, tree, file, moduleType)
  const source = isVirtual ? module.file : chooseSpecifier(file, module.file, imports, module.ending)
  const names = listNames(module.exported, local)
  const member = module.exported === 'default' ? '.default' : ''
  const writeStatement = (quote: string, end: string) => {
    const from = `${quote}${source}${quote}`
    return isModule
      ? `import ${names ?? `{ ${module.exported} as ${local} }`} from ${from}${end}`
      : `const ${names ?? `{ ${module.exported}: ${local} }`} = require(${from})${member}${end}`
  }
  const nodes = imports.map(({ node }) => node)
  return { local, edit: importEdit(text, tree, writeStatement, nodes, isModule ? undefined : firstUse) }
}

/** What an import binds where no other name is given to it; `null` where one is. */
function listNames(exported: string, local: string): string | null {
  if (exported === 'default') return local
  return exported === local ? `{ ${local} }` : null
}

function findImportedName({ type, imported }: SyntaxNode): string {
  if (type === 'ImportDefaultSpecifier') return 'default'
  return type === 'ImportSpecifier' ? readPlainName(imported) : '*'
}

interface Imported {
  readonly node: SyntaxNode
  readonly source: string
  /** What is imported, and the name it gets. */
  readonly names: ReadonlyMap<string, string>
}

/** What an import statement, or a `const ... = require(...)` at the top level, brings in. */
function readImported(node: SyntaxNode): Imported | null {
  if (node.type === 'ImportDeclaration') {
    if (node.importKind === 'type') return { node, source: getText(node.source), names: new Map() }
    const names = (node.specifiers as SyntaxNode[]).map((each): [string, string] => [
      findImportedName(each),
      readPlainName(each.local),
    ])
    return { node, source: getText(node.source), names: new Map(names) }
  }
  if (node.type !== 'VariableDeclaration') return null
  const [first] = node.declarations as SyntaxNode[]
  const call = first?.init as SyntaxNode | null | undefined
  const [argument] = (call?.arguments ?? []) as SyntaxNode[]
  if (call?.type !== 'CallExpression' || readPlainName(call.callee) !== 'require' || argument?.type !== 'StringLiteral')
    return null
  const id = first!.id as SyntaxNode
  const names = ((id.properties ?? []) as SyntaxNode[]).map((each): [string, string] => [
    readPlainName(each.key),
    readPlainName(each.value),
  ])
  return { node, source: getText(argument), names: new Map(names) }
}

/** `settings`, or another name where the file uses that one for something else. */
function chooseFreeName(tree: SyntaxNode): string {
  const used = new Set<string>()
  visit(tree, [], (node, above) => {
    if (node.type !== 'Identifier' && node.type !== 'JSXIdentifier') return
    const parent = above.at(-1)
    const isMember = parent?.type === 'MemberExpression' || parent?.type === 'OptionalMemberExpression'
    if (!(isMember && parent.property === node && !parent.computed)) used.add(String(node.name))
  })
  for (const name of ['settings', 'loadedSettings']) if (!used.has(name)) return name
  let number = 2
  while (used.has(`loadedSettings${number}`)) number++
  return `loadedSettings${number}`
}

function isModuleFile(text: string, tree: SyntaxNode, file: string, moduleType: 'module' | 'commonjs'): boolean {
  if (/\.m[jt]s$/.test(file)) return true
  if (/\.c[jt]s$/.test(file)) return false
  if ((tree.body as SyntaxNode[]).some(({ type }) => type.startsWith('Export'))) return true
  if (/\brequire\s*\(|\bmodule\.exports\b|\bexports\.\w/.test(text)) return false
  return /\.[jt]sx$|\.ts$/.test(file) || moduleType === 'module'
}

/** The path by which one file imports another, in the way in which the file writes paths. */
function chooseSpecifier(
  file: string,
  target: string,
  imports: readonly Imported[],
  ending: SettingsModule['ending'],
): string {
  const inner = toRelativePath(path.dirname(file), target)
  const relative = inner.startsWith('.') ? inner : `./${inner}`
  const others = imports.filter(({ source }) => /^\.\.?\//.test(source)).map(({ source }) => source)
  const style = others.length === 0 ? ending : chooseEndingStyle(others)
  return withEnding(relative, style)
}

/** The same file, whatever of its ending was left out or stands for. */
function isSame(specifier: string, file: string): boolean {
  const stripEnding = (name: string) => name.replace(/\.[cm]?[jt]sx?$/, '')
  return stripEnding(specifier) === stripEnding(file)
}

function getText(node: unknown): string {
  return String((node as { value?: unknown }).value)
}
