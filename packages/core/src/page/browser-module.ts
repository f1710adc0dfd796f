import type { Declaration } from '../definition/definition.ts'
import { type GroupTree, groupTree } from '../definition/group-tree.ts'
import { toLiteral } from '../values/literal.ts'
import { toShape } from '../values/payload-schema.ts'

/** A public setting and its value in the stage of the build; a runtime one has none there. */
export interface PublicSetting {
  readonly declaration: Declaration
  readonly value: unknown
}

/** The module that exports the settings and groups of a group one by one. */
export function valuesModule(name: string, group: string): string {
  return `${name}/${group === '' ? 'settings' : `settings.${group}`}`
}

/** The module that exports a group as one object, called `settings`. */
export function objectModule(name: string, group: string): string {
  return group === '' ? name : `${name}/objects.${group}`
}

/**
 * The modules that give a page its public settings: for each group one that exports them one by one, so that a bundler can put each
 * value where it is read and leave out those that nobody reads, and one that exports a frozen object of them.
 *
 * @param name what the first module is called, which exports the object of all; the names of the others begin with it
 * @param start where runtime values come from: a specifier, and the name that it exports
 * @returns the code of each module by its name
 */
export function browserModules(
  settings: readonly PublicSetting[],
  name: string,
  start: { readonly from: string; readonly exportedAs: string },
): ReadonlyMap<string, string> {
  const modules = new Map<string, string>()
  const atRuntime = settings.filter(({ declaration }) => declaration.readAt === 'runtime')
  const runtimeModule = `${name}/at-runtime`
  const tree = groupTree(settings, ({ declaration }) => declaration.keys)
  writeGroup(tree, name, '', runtimeModule, modules)
  if (atRuntime.length > 0) modules.set(runtimeModule, runtimeCode(atRuntime, start))
  return modules
}

function writeGroup(
  group: GroupTree<PublicSetting>,
  name: string,
  path: string,
  runtimeModule: string,
  modules: Map<string, string>,
): void {
  const values: string[] = []
  const imports: string[] = []
  const members: string[] = []
  const own = valuesModule(name, path)
  let index = 0
  for (const [key, each] of group) {
    const local = `value${index++}`
    members.push(`${key}: ${local}`)
    if (each instanceof Map) {
      const inner = path === '' ? key : `${path}.${key}`
      values.push(`export * as ${key} from '${valuesModule(name, inner)}'`)
      imports.push(`import { settings as ${local} } from '${objectModule(name, inner)}'`)
      writeGroup(each, name, inner, runtimeModule, modules)
      continue
    }
    imports.push(`import { ${key} as ${local} } from '${own}'`)
    if (each.declaration.readAt === 'runtime') {
      values.push(`import { values as ${local} } from '${runtimeModule}'`)
      // Reading a member of what was read has no effect, which a bundler can't know.
      values.push(`const at${local} = /* @__PURE__ */ (() => ${fromPayload(each.declaration, local)})()`)
      values.push(`export { at${local} as ${key} }`)
    } else values.push(`const ${local} = ${toLiteral(each.value)}`, `export { ${local} as ${key} }`)
  }
  modules.set(own, `${values.join('\n')}\n`)
  const object = `export const settings = /* @__PURE__ */ Object.freeze({ ${members.join(', ')} })`
  modules.set(objectModule(name, path), `${[...imports, object].join('\n')}\n`)
}

/** Reads a runtime value. */
function fromPayload({ path, kind, options }: Declaration, values: string): string {
  const carried = `${values}['${path}']`
  return kind.type.fromPayload?.(carried, options) ?? carried
}

function runtimeCode(settings: readonly PublicSetting[], start: { from: string; exportedAs: string }): string {
  const shape = JSON.stringify(toShape(settings.map(({ declaration }) => declaration)))
  return `import { ${start.exportedAs} } from '${start.from}'\nexport const values = /* @__PURE__ */ ${start.exportedAs}(${shape})\n`
}
