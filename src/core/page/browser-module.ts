import type { Declaration } from '../definition/definition.ts'
import { type GroupTree, groupTree } from '../definition/group-tree.ts'
import type { AnySetting } from '../definition/setting.ts'
import { literalOf } from './literal.ts'
import { shapeOf } from './wire.ts'

/** A public setting and its value in the stage of the build; a start-time one has none there. */
export interface PublicSetting {
  readonly declaration: Declaration
  readonly value: unknown
}

/**
 * The modules that give a page its public settings, one for each group. Groups are namespaces rather than objects, so that a
 * bundler can put each value where it is read, and leave out those that nobody reads.
 *
 * @param name what the first module is called; those of groups add their paths to it
 * @param start where start-time values come from: a specifier, and the name that it exports
 * @returns the code of each module by its name
 */
export function browserModules(
  settings: readonly PublicSetting[],
  name: string,
  start: { readonly from: string; readonly startsAs: string },
): ReadonlyMap<string, string> {
  const modules = new Map<string, string>()
  const atStart = settings.filter(({ declaration }) => declaration.readAt === 'start')
  const startModule = `${name}/at-start`
  modules.set(name, `export * as settings from '${name}/settings'\n`)
  writeGroup(
    groupTree(settings, ({ declaration }) => declaration.keys),
    `${name}/settings`,
    startModule,
    modules,
  )
  if (atStart.length > 0) modules.set(startModule, startCode(atStart, start))
  return modules
}

function writeGroup(
  group: GroupTree<PublicSetting>,
  name: string,
  startModule: string,
  modules: Map<string, string>,
): void {
  const lines: string[] = []
  let index = 0
  for (const [key, each] of group) {
    const local = `value${index++}`
    if (each instanceof Map) {
      lines.push(`export * as ${key} from '${name}.${key}'`)
      writeGroup(each, `${name}.${key}`, startModule, modules)
    } else if (each.declaration.readAt === 'start') {
      lines.push(`import { values as ${local} } from '${startModule}'`)
      // Reading a member of what was read has no effect, which a bundler can't know.
      lines.push(`const at${local} = /* @__PURE__ */ (() => ${withBytes(each.declaration, local)})()`)
      lines.push(`export { at${local} as ${key} }`)
    } else lines.push(`const ${local} = ${literalOf(each.value)}`, `export { ${local} as ${key} }`)
  }
  modules.set(name, `${lines.join('\n')}\n`)
}

/** Reads a start-time value, of which bytes come as numbers. */
function withBytes({ path, kind, options }: Declaration, values: string): string {
  const value = `${values}['${path}']`
  if (kind.schema.contentEncoding === 'base64') return `${value} && Uint8Array.from(${value})`
  const items = (options.items as AnySetting | undefined)?.kind.schema.contentEncoding
  return items === 'base64' ? `${value}?.map((each) => Uint8Array.from(each))` : value
}

function startCode(settings: readonly PublicSetting[], start: { from: string; startsAs: string }): string {
  const shape = JSON.stringify(shapeOf(settings.map(({ declaration }) => declaration)))
  return `import { ${start.startsAs} } from '${start.from}'\nexport const values = /* @__PURE__ */ ${start.startsAs}(${shape})\n`
}
