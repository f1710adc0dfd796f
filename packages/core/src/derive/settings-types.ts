import type { Declaration, Definition } from '../definition/definition.ts'
import { hasPlace } from '../definition/former-value.ts'
import { type GroupTree, groupTree } from '../definition/group-tree.ts'
import { escapeInvisible } from '../text/escape-invisible.ts'

/**
 * Types of the settings with their descriptions, one interface for each group, so that an editor shows what a setting is for, and an
 * error names a group instead of all that is in it. `Values` of the definition has these types as long as they agree with it.
 *
 * @param file the name of the definition, if the types are beside it and it is TypeScript: what only the compiler knows is taken from it
 * @returns declarations of a global namespace, to be part of a file of declarations
 */
export function settingsTypes(definition: Definition, file: string | null): string {
  const settings = definition.settings.filter(hasPlace)
  const names = new Set<string>()
  const all = writeInterfaces(settings, { suffix: 'Settings', names, file })
  const ofPages = settings.filter((each) => each.public)
  const shown = ofPages.length === 0 ? [] : writeInterfaces(ofPages, { suffix: 'PublicSettings', names, file })
  const entries = [
    '    all: MappaSettings.Settings',
    ...(shown.length > 0 ? ['    public: MappaSettings.PublicSettings'] : []),
  ]
  return `interface MappaSettingsTypes {
${entries.map((each) => each.slice(2)).join('\n')}
}

declare namespace MappaSettings {
${[...all, ...shown].join('\n')}
}
`
}

/** An interface for a group and for each group in it, the outermost first. */
function writeInterfaces(settings: readonly Declaration[], how: Naming): string[] {
  return written(
    groupTree(settings, ({ keys }) => keys),
    '',
    how,
  )
}

/** How interfaces are named, and where to find what only the compiler knows. */
interface Naming {
  readonly suffix: string
  readonly names: Set<string>
  readonly file: string | null
}

function written(group: GroupTree<Declaration>, prefix: string, how: Naming): string[] {
  const own = chooseFreeName(`${prefix}${how.suffix}`, how.names)
  const inner: string[] = []
  const members = [...group].map(([key, each]) => {
    if (!(each instanceof Map)) return member(key, each, how.file)
    const [first, ...more] = written(each, `${prefix}${capitalize(key)}`, how)
    inner.push(first!, ...more)
    return `    readonly ${key}: ${/interface (\w+)/.exec(first!)![1]}`
  })
  return [`  interface ${own} {\n${members.join('\n')}\n  }`, ...inner]
}

/** Two paths may make one name, such as those of `a.bc` and `aB.c`. */
function chooseFreeName(name: string, names: Set<string>): string {
  let free = name
  for (let number = 2; names.has(free); number++) free = `${name}${number}`
  names.add(free)
  return free
}

function member(key: string, declaration: Declaration, file: string | null): string {
  const comment = writeDocComment(declaration.description, declaration.options.deprecated, '    ')
  return `    ${comment}\n    readonly ${key}: ${toType(declaration, file)}`
}

function toType({ keys, kind, options, secret, optional }: Declaration, file: string | null): string {
  const type = kind.type.typescript(options)
  if (file !== null && type.includes('unknown')) {
    const path = keys.map((each) => `['${each}']`).join('')
    return `import('mappa-settings').InferredValues<typeof import('./${file.replace(/ts$/, 'js')}').default>${path}`
  }
  return `${secret ? `import('mappa-settings').Secret<${type}>` : type}${optional ? ' | undefined' : ''}`
}

/**
 * A description as a comment of documentation (TSDoc), on as many lines as it needs.
 *
 * @param deprecated true, or what to use instead
 * @param indent what stands before the comment on its line
 */
export function writeDocComment(description: string, deprecated: unknown, indent: string): string {
  const lines = [escapeComment(description)]
  if (deprecated === true) lines.push('@deprecated')
  if (typeof deprecated === 'string') lines.push(`@deprecated ${escapeComment(deprecated)}`)
  if (lines.length === 1) return `/** ${lines[0]} */`
  return `/**\n${lines.map((line) => `${indent} * ${line}`).join('\n')}\n${indent} */`
}

/** A text that can't end the comment it stands in, on one line. */
function escapeComment(text: string): string {
  return escapeInvisible(text.replace(/\s+/g, ' ')).replaceAll('*/', '*\\/')
}

const capitalize = (key: string) => key.slice(0, 1).toUpperCase() + key.slice(1)
