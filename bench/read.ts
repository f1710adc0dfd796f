import { EnvDocument } from 'mappa-settings/envfile'
import { inTurn, type Measured } from './measure.ts'

const WORDS = ['SERVER', 'DOME', 'NIGHT', 'VISITOR', 'MIRROR', 'CAMERA', 'WEATHER', 'TRACK']

/**
 * An env file of the observatory, as people write them: most values plain, some quoted, some with references,
 * escapes, comments and empty lines.
 */
function makeText(settings: number): { text: string; data: Record<string, string> } {
  const lines: string[] = []
  const data: Record<string, string> = {}
  for (let i = 0; i < settings; i++) {
    const name = `${WORDS[i % 8]}_${WORDS[(i >> 3) % 8]}_SETTING_${i}`
    const plain = `value-${(i * 2654435761) % 2 ** 32}-for-night`
    const [written, value] = (
      [
        [plain, plain],
        [`"${plain} of many"`, `${plain} of many`],
        [`${plain} # ${WORDS[i % 8]}`, plain],
        [`'${plain} # all'`, `${plain} # all`],
        [plain, plain],
        [`"first\\nsecond ${i}"`, `first\nsecond ${i}`],
        [plain, plain],
        [`"\${DOME_DOME_SETTING_9}/${i}"`, `\${DOME_DOME_SETTING_9}/${i}`],
      ] as const
    )[i % 8]!
    lines.push(`${name}=${written}`)
    data[name] = value
  }
  return { text: `${lines.join('\n')}\n`, data }
}

/** Lines of which a reader that looks ahead, or back, could make more than one pass each: quotes and references that never end. */
const NASTY = [
  'A="x\n',
  "A='x\n",
  'A="\\"\n',
  'A=-----BEGIN K\n',
  'A=${A:-${A:-\n',
  'A="$(\n',
  'A=1\n',
  'x y\n',
  '\\"',
  '$',
  '\'"\n',
]

/** Ten times a nasty text, over the text: the worst of them. */
function benchNasty(runs: number): Measured {
  const all = NASTY.map((line) => {
    const [small, large] = [30_000, 300_000].map((length) => line.repeat(Math.ceil(length / line.length)))
    return inTurn(
      runs,
      () => EnvDocument.from(large!),
      () => EnvDocument.from(small!),
    )
  })
  const worst = all.reduce((one, other) => (other.paired > one.paired ? other : one))
  return { what: 'read 300 kB of a line that never ends / 30 kB', ...worst, runs, limit: 15 }
}

/** Reading 20,000 settings with all positions, over `JSON.parse` of the same data; and ten times the lines. */
export function benchRead(runs: number): Measured[] {
  const small = makeText(20_000)
  const json = JSON.stringify(small.data)
  const large = makeText(200_000).text
  let sum = 0
  const read = (text: string) => {
    const { entries } = EnvDocument.from(text)
    for (const entry of entries) sum += entry.line + entry.column + entry.valueColumn
  }
  const parse = () => {
    sum += Object.keys(JSON.parse(json) as object).length
  }
  const kilobytes = Math.round(small.text.length / 1000)
  const first = inTurn(runs, () => read(small.text), parse)
  const growth = inTurn(
    runs,
    () => read(large),
    () => read(small.text),
  )
  if (sum === 0) throw new Error('nothing was read')
  return [
    { what: `read ${kilobytes} kB, 20,000 settings / JSON.parse`, ...first, runs, limit: 1.5 },
    { what: 'read 200,000 settings / 20,000', ...growth, runs, limit: 11 },
    benchNasty(runs),
  ]
}
