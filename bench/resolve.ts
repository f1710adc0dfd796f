import { type AnySetting, defineSettings, environmentLayer, resolveSettings, setting } from 'mappa-settings'
import { inTurn, type Measured } from './measure.ts'

const SETTINGS = 1000

/** Resolving 1,000 settings with constraints, over a loop by hand that does the same conversions and comparisons. */
export function benchResolve(runs: number): Measured[] {
  const tree: Record<string, AnySetting> = {}
  const environment: Record<string, string> = {}
  for (let i = 0; i < SETTINGS; i++) {
    const [made, text] = (
      [
        [setting.string('Name of a mirror', { minLength: 2, maxLength: 80, pattern: /^[\w ]+$/ }), `mirror ${i}`],
        [setting.integer('Width of a mirror', { minimum: 0, maximum: 100_000 }), String(i)],
        [setting.number('Tilt of a mirror', { exclusiveMinimum: -90, exclusiveMaximum: 90 }), '12.5'],
        [setting.boolean('Whether a mirror is covered'), 'yes'],
        [setting.port('Port of a mirror', { minimum: 1024 }), '4100'],
      ] as const
    )[i % 5]!
    tree[`mirror${i}`] = made
    environment[`MIRROR${i}`] = text
  }
  const definition = defineSettings(tree)
  let sum = 0
  const work = inTurn(
    runs,
    () => {
      const { values, problems } = resolveSettings(definition, { layers: [environmentLayer(environment)] })
      if (values === null || problems.length > 0) throw new Error('the settings are wrong')
      sum += Object.keys(values).length
    },
    () => {
      sum += Object.keys(byHand(environment)).length
    },
  )
  if (sum === 0) throw new Error('nothing was resolved')
  return [
    { what: 'resolve 1,000 settings with constraints / a loop by hand', ...work, runs, limit: 3 },
    benchHuge(Math.min(runs, 9)),
  ]
}

/** Values that are too long for anything, of every kind that takes a text as it is: ten times the length, the worst of them. */
function benchHuge(runs: number): Measured {
  const about = 'What the dome is told'
  const kinds = [
    setting.string(about, { maxLength: 80 }),
    setting.email(about),
    setting.pem(about),
    setting.json(about),
    setting.ip(about),
    setting.hostname(about),
    setting.base64(about, { bytes: 32 }),
    setting.list(about, { items: setting.port(about) }),
    setting.duration(about),
    setting.url(about),
  ]
  const all = kinds.map((kind) => {
    const definition = defineSettings({ told: kind })
    const [small, large] = [100_000, 1_000_000].map((length) => environmentLayer({ TOLD: 'x'.repeat(length) }))
    return inTurn(
      runs,
      () => resolveSettings(definition, { layers: [large!] }),
      () => resolveSettings(definition, { layers: [small!] }),
    )
  })
  const worst = all.reduce((one, other) => (other.paired > one.paired ? other : one))
  return { what: 'refuse a value of 1 MB / of 100 kB, of any kind', ...worst, runs, limit: 15 }
}

const WORDS = new Map([
  ['true', true],
  ['yes', true],
  ['on', true],
  ['1', true],
  ['false', false],
  ['no', false],
  ['off', false],
  ['0', false],
])

/** What somebody would write who had nothing else: the same conversions, the same comparisons, a frozen result. */
function byHand(environment: Readonly<Record<string, string>>): object {
  const values: Record<string, unknown> = {}
  for (let i = 0; i < SETTINGS; i++) {
    const text = environment[`MIRROR${i}`]
    if (text === undefined || text === '') throw new Error(`MIRROR${i} is missing`)
    values[`mirror${i}`] = convert(i, text)
  }
  return Object.freeze(values)
}

function convert(i: number, text: string): unknown {
  const value = CONVERSIONS[i % 5]!(text)
  if (value === undefined) throw new Error(`MIRROR${i} is wrong`)
  return value
}

/** What each sort of setting is made of; `undefined` for a text that is wrong. */
const CONVERSIONS: readonly ((text: string) => unknown)[] = [
  (text) => {
    const length = [...text].length
    return length < 2 || length > 80 || !/^[\w ]+$/.test(text) ? undefined : text
  },
  (text) => {
    const value = Number(text)
    if (!/^-?(?:0|[1-9][0-9]*)$/.test(text) || !Number.isSafeInteger(value)) return undefined
    return value < 0 || value > 100_000 ? undefined : value
  },
  (text) => {
    const value = Number(text)
    if (!/^-?(?:0|[1-9][0-9]*)(?:\.[0-9]+)?(?:[eE][+-]?[0-9]+)?$/.test(text)) return undefined
    return !Number.isFinite(value) || value <= -90 || value >= 90 ? undefined : value
  },
  (text) => WORDS.get(text.toLowerCase()),
  (text) => {
    const value = Number(text)
    return !/^[1-9][0-9]{0,4}$/.test(text) || value > 65535 || value < 1024 ? undefined : value
  },
]
