import type { Declaration } from '@mappa/core/definition/definition'
import { objectModule, valuesModule } from '@mappa/core/page/browser-module'
import { readPlainName, visit } from '@mappa/source/javascript/tree'
import type { ESTree } from 'vite'
import { BROWSER } from './modules.ts'
import { parseCode } from './parse.ts'
import { splice } from './splice.ts'

/**
 * Narrows what a module imports of the settings to what it reads. `settings` is an object, of which a bundler keeps all or nothing;
 * where a module only names settings one by one, also after `const { visitor } = settings`, it gets them as exports of modules,
 * of which a bundler keeps those that are read.
 *
 * @param settings the public settings
 * @returns the new code and its map, `null` where nothing changes; and the reads of what is no public setting
 */
export function narrowImports(code: string, id: string, settings: readonly Declaration[]) {
  const program = parseCode(`${id.replace(/[?#].*$/, '')}.tsx`, code)
  if (program === null) return { narrowed: null, unknown: [] }
  const module = new PageModule(program, settings)
  const changes = [...module.declarations].map(([{ start, end }, names]) => {
    const imports = names.map(({ local, path, isSetting }) => module.writeImport(local, path, isSetting))
    return { start, end, text: imports.join('\n') }
  })
  const narrowed = splice(code, id, changes)
  return { narrowed, unknown: module.unknown }
}

/** A read of something that is no public setting. */
export interface UnknownRead {
  /** The path that is asked for, up to where there is nothing. */
  readonly asked: string
  /** The path as far as it is written out. */
  readonly chain: string
  /** The expression, as it stands there. */
  readonly written: string
}

/** A name of a module, and the setting or group that it stands for. */
interface Name {
  readonly local: string
  readonly path: string
  readonly isSetting: boolean
}

/** The names that stand for settings in a module. */
class PageModule {
  /** Imports, and declarations that take settings out of their groups, with the names that they make. */
  readonly declarations = new Map<ESTree.Node, readonly Name[]>()
  readonly unknown: UnknownRead[] = []
  readonly #program: ESTree.Program
  /** The path of each name of a group. */
  readonly #groups = new Map<string, string>()
  readonly #settings: ReadonlySet<string>
  readonly #groupPaths: ReadonlySet<string>

  constructor(program: ESTree.Program, settings: readonly Declaration[]) {
    this.#program = program
    this.#settings = new Set(settings.map(({ path }) => path))
    this.#groupPaths = new Set(
      settings.flatMap(({ keys }) => keys.slice(0, -1).map((_, index) => joinPath(keys, index))),
    )
    for (const node of program.body) {
      const names = node.type === 'ImportDeclaration' ? listImportedNames(node) : this.#destructuredNames(node)
      if (names === null) continue
      this.declarations.set(node, names)
      for (const { local, path, isSetting } of names) if (!isSetting) this.#groups.set(local, path)
    }
  }

  /** The line that gives a module what one of its names stands for. */
  writeImport(local: string, path: string, isSetting: boolean): string {
    if (isSetting) {
      const cut = path.lastIndexOf('.')
      return `import { ${path.slice(cut + 1)} as ${local} } from '${valuesModule(BROWSER, path.slice(0, Math.max(cut, 0)))}'`
    }
    return this.#isReadOneByOne(local, path)
      ? `import * as ${local} from '${valuesModule(BROWSER, path)}'`
      : `import { settings as ${local} } from '${objectModule(BROWSER, path)}'`
  }

  /** The names that a declaration takes out of groups at the top level; `null` where it is another kind of declaration. */
  #destructuredNames(node: ESTree.Node): Name[] | null {
    if (node.type !== 'VariableDeclaration' || node.kind !== 'const') return null
    const known = new Map(this.#groups)
    const names: Name[] = []
    for (const { id, init } of node.declarations) {
      const group = getPath(init, known)
      if (group === null || id.type !== 'ObjectPattern') return null
      for (const property of id.properties) {
        const name = this.#findName(group, property)
        if (name === null) return null
        names.push(name)
        if (!name.isSetting) known.set(name.local, name.path)
      }
    }
    return names
  }

  /** The name that a property of a pattern takes out of a group; `null` if it is none that can be narrowed. */
  #findName(group: string, property: ESTree.BindingProperty | ESTree.BindingRestElement): Name | null {
    if (property.type !== 'Property' || property.computed || property.value.type !== 'Identifier') return null
    const written = readPlainName(property.key)
    const path = join(group, written)
    const isSetting = this.#settings.has(path)
    if (isSetting || this.#groupPaths.has(path)) return { local: property.value.name, path, isSetting }
    if (!(written in Object.prototype)) this.unknown.push({ asked: path, chain: path, written })
    return null
  }

  /**
   * True where each use of a name reads one setting by its name. Whoever is handed the group itself may do with it what can be
   * done with objects, which modules don't all allow. Scopes are not checked: another thing of the same name only costs bytes.
   */
  #isReadOneByOne(local: string, path: string): boolean {
    let oneByOne = true
    let hasUnknown = false
    visit<ESTree.Node>(this.#program, (node, above) => {
      if (this.declarations.has(node)) return false
      if (node.type !== 'Identifier' || node.name !== local || isLabel(node, above.at(-1))) return true
      const end = this.#classifyEnd(node, path, above)
      if (typeof end === 'object') {
        hasUnknown = true
        this.unknown.push(end)
      } else if (end === 'group') oneByOne = false
      return true
    })
    // The bundler says which name a module lacks; an object would be silent.
    return oneByOne || hasUnknown
  }

  /** What a chain of members ends at, as in `settings.visitor.places`. */
  #classifyEnd(node: ESTree.Node, start: string, above: readonly ESTree.Node[]): 'setting' | 'group' | UnknownRead {
    let path = start
    let inner = node
    let written = readPlainName(node)
    let asked: string | null = null
    for (const outer of above.toReversed()) {
      if (outer.type !== 'MemberExpression' || outer.object !== inner) break
      const name = writeMember(outer)
      if (name === null) break
      path = join(path, name)
      written += `.${name}`
      if (asked === null && this.#settings.has(path)) return 'setting'
      if (!this.#groupPaths.has(path)) asked ??= path
      inner = outer
    }
    return asked === null ? 'group' : { asked, chain: path, written }
  }
}

/** The names of `import { settings } from 'virtual:mappa/browser'`; `null` for other imports. */
function listImportedNames({ source, specifiers }: ESTree.ImportDeclaration): Name[] | null {
  if (source.value !== BROWSER || specifiers.length === 0) return null
  const isOfSettings = (each: (typeof specifiers)[number]) =>
    each.type === 'ImportSpecifier' && readPlainName(each.imported) === 'settings'
  if (!specifiers.every(isOfSettings)) return null
  return specifiers.map(({ local }) => ({ local: local.name, path: '', isSetting: false }))
}

/** The name of a member, if it is written out and no object has it anyway. */
function writeMember({ property, computed }: ESTree.MemberExpression): string | null {
  const isWrittenOut = !computed || (property.type === 'Literal' && typeof property.value === 'string')
  const name = readPlainName(property)
  return isWrittenOut && !(name in Object.prototype) ? name : null
}

/** The path that an expression reads, from a name that stands for a group. */
function getPath(node: ESTree.Node | null, known: ReadonlyMap<string, string>): string | null {
  if (node?.type === 'Identifier') return known.get(node.name) ?? null
  if (node?.type !== 'MemberExpression' || node.computed) return null
  const group = getPath(node.object, known)
  return group === null ? null : join(group, readPlainName(node.property))
}

/** True for a name that is no expression: that of a member, of a property or of a method. */
function isLabel(node: ESTree.Node, parent: ESTree.Node | undefined): boolean {
  if (parent === undefined || ('computed' in parent && parent.computed)) return false
  if (parent.type === 'MemberExpression') return parent.property === node
  return 'key' in parent && parent.key === node && !('value' in parent && parent.value === node)
}

function joinPath(keys: readonly string[], index: number): string {
  return keys.slice(0, index + 1).join('.')
}

function join(group: string, key: string): string {
  return group === '' ? key : `${group}.${key}`
}
