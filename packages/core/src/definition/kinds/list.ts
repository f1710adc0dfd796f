import { type CommonOptions, isSetting, type ReadAt, type Setting } from '../setting.ts'
import type { ConstraintName, ListConstraints } from './constraints.ts'
import { type Failure, failure } from './failure.ts'
import { type Item, type Kind, kind, MAKES_TYPE, type Options } from './kind.ts'
import { maker } from './maker.ts'
import { stringKind } from './string.ts'

/** Makes a setting whose type is a list of what its items are. */
export type ListMaker = <
  Item = string,
  const IsSecret extends boolean = false,
  const IsOptional extends boolean = false,
  const IsPublic extends boolean = false,
  const At extends ReadAt = 'build',
  const For extends string = string,
>(
  description: string,
  options?: CommonOptions<readonly NoInfer<Item>[], IsSecret, IsOptional, IsPublic, At, readonly NoInfer<Item>[], For> &
    ListConstraints & {
      /**
       * What each item is, such as `setting.port('A port')`.
       * @default a text
       */
      readonly items?: Setting<Item, false, false, false>
      /**
       * What is between items.
       * @default ','
       */
      readonly separator?: string
    },
) => Setting<readonly Item[], IsSecret, IsOptional, IsPublic, At, For>

const CONSTRAINTS: readonly ConstraintName[] = ['minItems', 'maxItems', 'uniqueItems']

const TEXT: Item = { kind: stringKind as Kind, options: {} }
const getItem = ({ items }: Options): Item => (items as Item | undefined) ?? TEXT
const getSeparator = ({ separator = ',' }: Options) => separator as string

/** Several values of one kind, with a separator between them. Blanks around an item are no part of it. */
export const listKind = /* @__PURE__ */ kind<readonly unknown[], ListMaker>({
  name: 'list',
  describe: (options) =>
    `list of items (${getItem(options).kind.describe(getItem(options).options)}), with ${JSON.stringify(getSeparator(options))} between them`,
  constraints: CONSTRAINTS,
  options: {
    items: {
      isSetting: true,
      keepsType: MAKES_TYPE,
      expected: "a setting for the items, such as setting.port('A port')",
      isValid: (value) => isSetting(value) && value.kind.name !== 'list',
    },
    separator: {
      expected: 'a text, such as a comma',
      isValid: (value) => typeof value === 'string' && value !== '',
    },
  },
  isValid: Array.isArray,
  convert(text, options) {
    const { kind: itemKind, options: itemOptions, checks = [] } = getItem(options)
    const failures: Failure[] = []
    const texts = text === '' ? [] : text.split(getSeparator(options)).map((each) => each.trim())
    const value = texts.map((each, index) => {
      const converted = each === '' ? failure('item-empty', {}) : itemKind.convert(each, itemOptions)
      const item = { index: index + 1, text: each }
      if ('failure' in converted) {
        failures.push({ ...converted.failure, item })
        return undefined
      }
      for (const check of checks) {
        const failed = check(converted.value)
        if (failed !== null) failures.push({ ...failed, item })
      }
      return converted.value
    })
    const [first, ...more] = failures
    return first === undefined ? { value } : { failure: first, more }
  },
  text: () => ({ notExpressed: ['what each item is'] }),
  toText: (value, options) =>
    value.map((each) => getItem(options).kind.toText(each, getItem(options).options)).join(getSeparator(options)),
  items: getItem,
  type: {
    typescript: (options) => `readonly (${getItem(options).kind.type.typescript(getItem(options).options)})[]`,
    payload: (options) => `a${getItem(options).kind.type.payload(getItem(options).options)}`,
    fromPayload(carried, options) {
      const { kind: itemKind, options: itemOptions } = getItem(options)
      const made = itemKind.type.fromPayload?.('each', itemOptions)
      return made == null ? null : `${carried}?.map((each) => ${made})`
    },
  },
  schema: { type: 'array' },
})

/**
 * Declares a setting that is a list of values of one kind. Accepts items separated by commas, with or without spaces around them.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `items`: the setting that each item is. Default: a string
 *   - `separator`: Default: a comma
 *   - `minItems`, `maxItems`: limits. Default: none
 *   - `uniqueItems`: true if no two items may have the same value. Default: false
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.list('Ports of the mirrors', { items: setting.port('A port'), minItems: 1 })
 * // MIRROR_PORTS=4101, 4102 -> [4101, 4102]
 * ```
 */
export const list = /* @__PURE__ */ maker(listKind)
