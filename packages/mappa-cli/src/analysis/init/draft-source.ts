import { variableName } from '@mappa/core/definition/naming'
import { type DraftSetting, describeName, writeLiteral } from './draft.ts'

/**
 * Settings in their groups, each under a key that no other has there.
 *
 * @param taken keys that are not free, by groups
 */
export function groupSettings(
  settings: readonly DraftSetting[],
  taken: TakenPart['taken'] = new Map(),
): ReadonlyMap<string, ReadonlyMap<string, DraftSetting>> {
  const groups = new Map<string, Map<string, DraftSetting>>()
  for (const each of settings) {
    const [name, first] = each.keys
    const group = groups.get(name) ?? new Map<string, DraftSetting>()
    groups.set(name, group)
    let key: string = first
    for (let number = 2; group.has(key) || taken.get(name)?.includes(key) === true; number++) key = `${first}${number}`
    group.set(key, each)
  }
  return groups
}

/** The part of a definition that packages share, as one of them takes it. */
export interface TakenPart {
  /** How the module with the part is imported. */
  readonly specifier: string
  /** The directory whose layer files are shared, relative to the package; `null` for the package that it belongs to. */
  readonly layersFrom: string | null
  /** The settings that the package takes, by groups and keys. */
  readonly taken: ReadonlyMap<string, readonly string[]>
  /** The groups of which it takes everything. */
  readonly whole: ReadonlySet<string>
}

/**
 * Writes the source of a definition.
 *
 * @param settings the settings, of which those of one group come together
 * @param stages the stages, where they are others than those by default
 * @param part what it takes of the part that packages share; nothing if left out
 */
export function writeDefinition(
  settings: readonly DraftSetting[],
  stages: readonly string[] | null,
  part: TakenPart | null = null,
): string {
  const own = groupSettings(settings, part?.taken)
  const names = [...new Set([...(part?.taken.keys() ?? []), ...own.keys()])]
  const body = names.map((group) => {
    const lines = [...(own.get(group) ?? [])].map(([key, each]) => `    ${key}: ${toCall(each, [group, key])},`)
    return groupSource(group, lines, part)
  })
  const options = [
    ...(stages === null ? [] : [`stages: ${writeList(stages)}`]),
    ...(part?.layersFrom == null ? [] : [`layersFrom: ${writeList([part.layersFrom])}`]),
  ]
  const tree = `{\n${body.length === 0 ? EXAMPLE : body.join('\n')}\n}`
  const last = options.length === 0 ? '' : `, { ${options.join(', ')} }`
  const makers = part === null || own.size > 0 ? 'defineSettings, setting' : 'defineSettings'
  const shared = part === null || part.taken.size === 0 ? '' : `import { shared } from '${part.specifier}'\n`
  return `import { ${makers} } from 'mappa-settings'\n${shared}\n/** Every setting of this project. What is missing or wrong keeps it from starting. */\nexport default defineSettings(${tree}${last})\n`
}

function groupSource(group: string, lines: readonly string[], part: TakenPart | null): string {
  const keys = part?.taken.get(group) ?? []
  const isWhole = part?.whole.has(group) === true
  if (isWhole && lines.length === 0) return `  ${group}: shared.${group},`
  const taken = isWhole ? [`    ...shared.${group},`] : keys.map((key) => `    ${key}: shared.${group}.${key},`)
  return `  ${group}: {\n${[...taken, ...lines].join('\n')}\n  },`
}

const writeList = (words: readonly string[]) => `[${words.map((each) => `'${each}'`).join(', ')}]`

/** Writes the source of the part of definitions that packages share. */
export function writeSharedDefinition(settings: readonly DraftSetting[]): string {
  const body = [...groupSettings(settings)].map(([group, members]) => {
    const lines = [...members].map(([key, each]) => `    ${key}: ${toCall(each, [group, key])},`)
    return `  ${group}: {\n${lines.join('\n')}\n  },`
  })
  return `import { setting, sharedSettings } from 'mappa-settings'\n\n/** The settings that several packages have. Their values stand in the layer files of this directory. */\nexport const shared = sharedSettings({\n${body.join('\n')}\n})\n`
}

/** The same as JSON, for projects in other languages. */
export function writeDefinitionJson(
  settings: readonly DraftSetting[],
  stages: readonly string[] | null,
  layersFrom: string | null = null,
): string {
  const tree = Object.fromEntries(
    [...groupSettings(settings)].map(([group, members]) => {
      const entries = [...members].map(([key, { name, kind, secret, optional, public: isPublic, default: value }]) => {
        const options = {
          kind,
          description: describeName(name),
          ...(secret ? { secret } : {}),
          ...(isPublic ? { public: true } : {}),
          ...(optional ? { optional } : {}),
          ...(value === null ? {} : { default: value }),
          ...(variableName([group, key], '') === name ? {} : { name }),
        }
        return [key, options]
      })
      return [group, Object.fromEntries(entries)]
    }),
  )
  const options = {
    ...(stages === null ? {} : { stages }),
    ...(layersFrom === null ? {} : { layersFrom: [layersFrom] }),
  }
  return `${JSON.stringify({ ...options, settings: tree }, null, 2)}\n`
}

/** What stands in a definition that has no settings yet. */
const EXAMPLE = `  // api: {
  //   key: setting.string('Key that the API asks for', { secret: true }),
  // },`

function toCall(each: DraftSetting, path: readonly string[]): string {
  const { name, kind, secret, optional } = each
  const options = [
    ...(secret ? ['secret: true'] : []),
    ...(each.public ? ['public: true'] : []),
    ...(optional ? ['optional: true'] : []),
    ...(each.default === null ? [] : [`default: ${writeLiteral(each.default, "'")}`]),
    ...(variableName(path, '') === name ? [] : [`name: '${name}'`]),
  ]
  return `setting.${kind}('${describeName(name)}'${options.length === 0 ? '' : `, { ${options.join(', ')} }`})`
}
