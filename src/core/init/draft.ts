import { variableName } from '../definition/naming.ts'
import { keysOfVariable } from '../survey/propose.ts'
import { shapeOf } from '../survey/shapes.ts'
import { meaningOf, wordsOf } from '../survey/words.ts'

/** A setting as it could stand in a new definition. */
export interface DraftSetting {
  /** Variable name, as it is in use already. */
  readonly name: string
  /** The keys of its path. */
  readonly keys: readonly [string, string]
  readonly kind: 'string' | 'integer' | 'number' | 'boolean' | 'port' | 'url'
  readonly secret: boolean
  readonly optional: boolean
}

/**
 * Drafts a setting from what is known of a variable.
 *
 * @param values the values it has in files, in whatever stage; none where it is only read
 */
export function draftSetting(name: string, values: readonly string[]): DraftSetting {
  const meaning = meaningOf([name])
  const shapes = values.map(shapeOf)
  const bySight = shapes.some(
    (shape) =>
      shape === 'private key' ||
      shape === 'signed token' ||
      shape === 'address with a password' ||
      shape === 'random text',
  )
  return {
    name,
    keys: keysOfVariable(name),
    kind: kindOf(
      name,
      values.filter((value) => value !== ''),
    ),
    secret: meaning === 'secret' || meaning === 'maybe secret' || bySight,
    optional: values.length === 0 || values.some((value) => value === ''),
  }
}

/** What all values are, if they are all one thing. */
function kindOf(name: string, values: readonly string[]): DraftSetting['kind'] {
  const all = (pattern: RegExp) => values.every((value) => pattern.test(value))
  // Where there is no value to look at, the name has to do.
  if (values.length === 0) return /(^|_)PORT$/i.test(name) ? 'port' : /(^|_)UR[LI]$/i.test(name) ? 'url' : 'string'
  if (all(/^[1-9]\d{1,4}$/) && /(^|_)PORT$/i.test(name)) return 'port'
  if (all(/^(true|false|yes|no|on|off)$/i)) return 'boolean'
  if (all(/^-?(0|[1-9]\d{0,14})$/)) return 'integer'
  if (all(/^-?(0|[1-9]\d*)\.\d+$/)) return 'number'
  return all(/^[a-z][a-z0-9+.-]*:\/\/\S+$/i) ? 'url' : 'string'
}

/**
 * Writes the source of a definition.
 *
 * @param settings the settings, of which those of one group come together
 * @param stages the stages, where they are others than those by default
 */
export function definitionSource(settings: readonly DraftSetting[], stages: readonly string[] | null): string {
  const groups = new Map<string, DraftSetting[]>()
  for (const each of settings) groups.set(each.keys[0], [...(groups.get(each.keys[0]) ?? []), each])
  const body = [...groups].map(([group, members]) => {
    const used = new Set<string>()
    const lines = members.map((each) => {
      let key = each.keys[1]
      for (let number = 2; used.has(key); number++) key = `${each.keys[1]}${number}`
      used.add(key)
      return `    ${key}: ${makerOf(each, [group, key])},`
    })
    return `  ${group}: {\n${lines.join('\n')}\n  },`
  })
  const options =
    stages === null ? '' : `, { stages: ${JSON.stringify(stages).replaceAll('"', "'").replaceAll(',', ', ')} }`
  const tree = `{\n${body.length === 0 ? EXAMPLE : body.join('\n')}\n}`
  return `import { defineSettings, setting } from 'mappa'\n\n/** Every setting of this project. What is missing or wrong keeps it from starting. */\nexport default defineSettings(${tree}${options})\n`
}

/** What stands in a definition that has no settings yet. */
const EXAMPLE = `  // dome: {
  //   key: setting.string('Key the dome controller asks for', { secret: true }),
  // },`

function makerOf({ name, kind, secret, optional }: DraftSetting, path: readonly string[]): string {
  const options = [
    ...(secret ? ['secret: true'] : []),
    ...(optional ? ['optional: true'] : []),
    ...(variableName(path, '') === name ? [] : [`name: '${name}'`]),
  ]
  return `setting.${kind}('${descriptionFrom(name)}'${options.length === 0 ? '' : `, { ${options.join(', ')} }`})`
}

/** What people write in capital letters. */
const CAPITALS =
  /^(api|url|uri|id|ip|jwt|smtp|sms|dsn|sql|http|https|tls|ssl|ssh|ftp|aws|gcp|cdn|db|s3|oauth|hmac|csrf)$/

/**
 * A description to begin with, from a name: `DOME_API_KEY` gives "Dome API key".
 *
 * @param name a variable name, or the keys of a path with blanks between them
 */
export function descriptionFrom(name: string): string {
  const words = wordsOf(name).map((word) => (CAPITALS.test(word) ? word.toUpperCase() : word))
  const text = words.join(' ')
  return `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`
}
