import type { ImportDeclaration, Node, Program, VariableDeclaration } from '@babel/types'
import type { TextEdit } from '@mappa/core/text/edits'
import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { getRange } from '@mappa/source/javascript/place'
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

/** The code of a file, or of a script in it. */
export interface ParsedCode {
  readonly text: string
  readonly tree: Program
  /** The absolute path of the file. */
  readonly file: string
  /** What a file of this ending is by its package, where nothing in it tells. */
  readonly moduleType: 'module' | 'commonjs'
}

/**
 * Finds out how a file gets at the typed settings: by an import that it has, or by one that is added after its others.
 * What is added has the quotes, semicolons, line ends and kind of path that the file has.
 *
 * @param code the file that gets it
 * @param module what is imported
 * @param firstUse where the settings are read first
 */
export function findSettingsImport(code: ParsedCode, module: SettingsModule, firstUse: number): SettingsImport {
  const { text, tree, file } = code
  const imports = tree.body.flatMap((node) => readImported(node) ?? [])
  const isVirtual = module.file.startsWith('virtual:')
  const own = imports.find(({ source }) =>
    isVirtual ? source === module.file : isSame(path.resolve(path.dirname(file), source), module.file),
  )
  const known = own?.names.get(module.exported)
  // One that a call of require brings in below the first use comes too late.
  const isInTime = own === undefined || own.node.type === 'ImportDeclaration' || getRange(own.node).end <= firstUse
  if (known !== undefined && isInTime) return { local: known, edit: null }
  const local = chooseFreeName(tree)
  const isModule = imports.some(({ node }) => node.type === 'ImportDeclaration') || isModuleFile(code)
  const source = isVirtual ? module.file : chooseSpecifier(file, module.file, imports, module.ending)
  const names = listNames(module.exported, local)
  const member = module.exported === 'default' ? '.default' : ''
  const write = (quote: string, end: string) => {
    const from = `${quote}${source}${quote}`
    return isModule
      ? `import ${names ?? `{ ${module.exported} as ${local} }`} from ${from}${end}`
      : `const ${names ?? `{ ${module.exported}: ${local} }`} = require(${from})${member}${end}`
  }
  const nodes = imports.map(({ node }) => node)
  const place = isModule ? {} : { before: firstUse }
  return { local, edit: importEdit(text, tree, { write, imports: nodes, ...place }) }
}

/** What an import binds where no other name is given to it; `null` where one is. */
function listNames(exported: string, local: string): string | null {
  if (exported === 'default') return local
  return exported === local ? `{ ${local} }` : null
}

function findImportedName(specifier: ImportDeclaration['specifiers'][number]): string {
  if (specifier.type === 'ImportDefaultSpecifier') return 'default'
  return specifier.type === 'ImportSpecifier' ? readPlainName(specifier.imported) : '*'
}

interface Imported {
  readonly node: ImportDeclaration | VariableDeclaration
  readonly source: string
  /** What is imported, and the name it gets. */
  readonly names: ReadonlyMap<string, string>
}

/** What an import statement, or a `const ... = require(...)` at the top level, brings in. */
function readImported(node: Node): Imported | null {
  if (node.type === 'ImportDeclaration') {
    const specifiers = node.importKind === 'type' ? [] : node.specifiers
    const names = specifiers.map((each): [string, string] => [findImportedName(each), each.local.name])
    return { node, source: node.source.value, names: new Map(names) }
  }
  return node.type === 'VariableDeclaration' ? readRequired(node) : null
}

function readRequired(node: VariableDeclaration): Imported | null {
  const [first] = node.declarations
  const call = first?.init
  if (first === undefined || call?.type !== 'CallExpression' || readPlainName(call.callee) !== 'require') return null
  const [argument] = call.arguments
  if (argument?.type !== 'StringLiteral') return null
  const members = first.id.type === 'ObjectPattern' ? first.id.properties : []
  const names = members.flatMap((each): [string, string][] =>
    each.type === 'ObjectProperty' ? [[readPlainName(each.key), readPlainName(each.value)]] : [],
  )
  return { node, source: argument.value, names: new Map(names) }
}

/** `settings`, or another name where the file uses that one for something else. */
function chooseFreeName(tree: Program): string {
  const used = new Set<string>()
  visit(tree, (node, above) => {
    if (node.type !== 'Identifier' && node.type !== 'JSXIdentifier') return
    const parent = above.at(-1)
    const isMember = parent?.type === 'MemberExpression' || parent?.type === 'OptionalMemberExpression'
    if (!(isMember && parent.property === node && !parent.computed)) used.add(node.name)
  })
  for (const name of ['settings', 'loadedSettings']) if (!used.has(name)) return name
  let number = 2
  while (used.has(`loadedSettings${number}`)) number++
  return `loadedSettings${number}`
}

function isModuleFile({ text, tree, file, moduleType }: ParsedCode): boolean {
  if (/\.m[jt]s$/.test(file)) return true
  if (/\.c[jt]s$/.test(file)) return false
  if (tree.body.some(({ type }) => type.startsWith('Export'))) return true
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
