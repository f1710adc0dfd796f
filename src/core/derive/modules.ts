import type { Declaration, Definition } from '../definition/definition.ts'
import { type GroupTree, groupTree } from '../definition/group-tree.ts'
import type { Kind, Options } from '../definition/kinds/kind.ts'
import { string } from '../definition/kinds/string.ts'
import type { AnySetting } from '../definition/setting.ts'

/** What the file of these declarations is called; it lies beside the definition. */
export const MODULES_FILE = 'settings.modules.d.ts'

/**
 * Declarations of the modules that `mappa/vite` makes up: `virtual:mappa/browser` and `virtual:mappa/server`. For a definition in
 * TypeScript they are inferred from it, so the file stays the same when settings come and go; for others they are written out.
 *
 * @param file the name of the definition, which lies beside the declarations
 * @returns the text of a file of declarations
 */
export function modulesFile(definition: Definition, file: string): string {
  const name = file.replace(/^.*[\\/]/, '')
  const inferred = /\.[cm]?ts$/.test(name)
  // TypeScript looks for the source behind this ending, whether or not a project allows its own.
  const source = `typeof import('./${name.replace(/ts$/, 'js')}').default`
  const { settings } = definition
  const shown = inferred ? `import('mappa').PublicValues<${source}>` : groupType(settings.filter((each) => each.public))
  const all = inferred ? `import('mappa').Values<${source}>` : groupType(settings)
  return `// Types of the modules that mappa/vite makes up. Made by mappa write modules and by the plugin: do not change it by hand.

declare module 'virtual:mappa/browser' {
  /** The public settings. */
  export const settings: ${shown}
}

declare module 'virtual:mappa/server' {
  /** All settings, for code that no page imports. */
  export const settings: ${all}
}
`
}

function groupType(settings: readonly Declaration[]): string {
  return written(
    groupTree(settings, ({ keys }) => keys),
    '  ',
  )
}

function written(group: GroupTree<Declaration>, indent: string): string {
  const inner = `${indent}  `
  const members = [...group].map(([key, each]) => {
    const type = each instanceof Map ? written(each, inner) : settingType(each)
    return `${inner}readonly ${key}: ${type}\n`
  })
  return `{\n${members.join('')}${indent}}`
}

function settingType({ kind, options, secret, optional }: Declaration): string {
  const type = typeOf(kind, options)
  return `${secret ? `import('mappa').Secret<${type}>` : type}${optional ? ' | undefined' : ''}`
}

function typeOf({ name, schema }: Kind, options: Options): string {
  if (name === 'choice') return (options.enum as readonly string[]).map((each) => JSON.stringify(each)).join(' | ')
  const { type, format, contentEncoding } = schema
  if (type === 'array') {
    const items = options.items as AnySetting | undefined
    return `readonly (${typeOf(items?.kind ?? (string as Kind), items?.options ?? {})})[]`
  }
  if (type === 'number' || type === 'integer') return 'number'
  if (type === 'boolean') return 'boolean'
  if (type !== 'string') return 'unknown'
  return format === 'date-time' ? 'Date' : contentEncoding === 'base64' ? 'Uint8Array' : 'string'
}
