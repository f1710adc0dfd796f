import type { Declaration, Definition } from './definition.ts'
import { MAX_PATTERN_LENGTH } from './kinds/constraints.ts'
import type { Options } from './kinds/kind.ts'

/** A regular expression that values are held against. */
export interface Pattern {
  /** The setting, and where in it. */
  readonly path: string
  readonly pattern: RegExp
  /** The longest value it is tried on, in UTF-16 code units. */
  readonly most: number
}

/** The patterns of all settings, of their items, and of single stages. */
export function listPatterns({ settings }: Definition): Pattern[] {
  return settings
    .flatMap((each) => [each, ...new Set(Object.values(each.stages).filter((own) => own !== null))])
    .flatMap(ofSetting)
}

function ofSetting({ path, kind, options }: Declaration): Pattern[] {
  const items = kind.items?.(options)
  return [...ofOptions(options, path), ...(items === undefined ? [] : ofOptions(items.options, `${path}, items`))]
}

function ofOptions({ pattern, maxLength }: Options, path: string): Pattern[] {
  if (pattern === undefined) return []
  const expression = pattern instanceof RegExp ? pattern : new RegExp(pattern, 'u')
  return [{ path, pattern: expression, most: maxLength ?? MAX_PATTERN_LENGTH }]
}
