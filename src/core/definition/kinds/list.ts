import type { Declaration } from '../definition.ts'
import { type CommonOptions, isSetting, type ReadAt, type Setting } from '../setting.ts'
import type { ConstraintName, ListConstraints } from './constraints.ts'
import { type Failure, failure } from './failure.ts'
import { type Kind, kind, type Options } from './kind.ts'
import { string } from './string.ts'

/** Makes a setting whose type is a list of what its items are. */
type ListMaker = <
  Item = string,
  const IsSecret extends boolean = false,
  const IsOptional extends boolean = false,
  const IsPublic extends boolean = false,
  const At extends ReadAt = 'build',
>(
  description: string,
  options?: CommonOptions<readonly NoInfer<Item>[], IsSecret, IsOptional, IsPublic, At> &
    ListConstraints & {
      /** What each item is, such as `setting.port('A port')`; a text if left out. */
      readonly items?: Setting<Item, false, false, false>
      /** What stands between items; a comma if left out. */
      readonly separator?: string
    },
) => Setting<readonly Item[], IsSecret, IsOptional, IsPublic, At>

const CONSTRAINTS: readonly ConstraintName[] = ['minItems', 'maxItems', 'uniqueItems']

/** What an item is. The definition adds the checks that its options ask for. */
interface Item {
  readonly kind: Kind
  readonly options: Options
  readonly checks?: Declaration['checks']
}

const TEXT: Item = { kind: string as Kind, options: {} }
const itemOf = ({ items }: Options): Item => (items as Item | undefined) ?? TEXT
const separatorOf = ({ separator = ',' }: Options) => separator as string

/** Several values of one kind, with a separator between them. Blanks around an item are no part of it. */
export const list = /* @__PURE__ */ kind<readonly unknown[], ListMaker>({
  name: 'list',
  says: (options) =>
    `list of items (${itemOf(options).kind.says(itemOf(options).options)}), with ${JSON.stringify(separatorOf(options))} between them`,
  constraints: CONSTRAINTS,
  options: {
    items: {
      needed: "a setting for the items, such as setting.port('A port')",
      accepts: (value) => isSetting(value) && value.kind.name !== 'list',
    },
    separator: {
      needed: 'a text, such as a comma',
      accepts: (value) => typeof value === 'string' && value !== '',
    },
  },
  accepts: Array.isArray,
  convert(text, options) {
    const { kind: itemKind, options: itemOptions, checks = [] } = itemOf(options)
    const failures: Failure[] = []
    const texts = text === '' ? [] : text.split(separatorOf(options)).map((each) => each.trim())
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
    return first === undefined ? { value: Object.freeze(value) } : { failure: first, more }
  },
  text: () => ({ notExpressed: ['what each item is'] }),
  toText: (value, options) =>
    value.map((each) => itemOf(options).kind.toText(each, itemOf(options).options)).join(separatorOf(options)),
  schema: { type: 'array' },
})
