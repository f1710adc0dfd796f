// npm run shape: names and shapes of the sources. What is counted in each directory may only fall: scripts/shape/limits.json has the
// limits, --write lowers them to what is there, and --list DIRECTORY names what is counted.
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { COUNTS, countShapes, mapValues } from './shape/count.mjs'
import { root } from './steps.mjs'

const FILE = 'scripts/shape/limits.json'
/** So many places are shown of each count. */
const MOST_SHOWN = 12
const before = existsSync(join(root, FILE)) ? JSON.parse(readFileSync(join(root, FILE), 'utf8')) : {}
const { directories, faults } = countShapes()
const counted = mapValues(directories, (counts) =>
  Object.fromEntries(Object.keys(COUNTS).flatMap((kind) => (counts[kind] > 0 ? [[kind, counts[kind]]] : []))),
)

/** Node 20 has no Object.groupBy. */
function groupBy(items, keyOf) {
  const groups = {}
  for (const item of items) (groups[keyOf(item)] ??= []).push(item)
  return groups
}

const [option, directory] = process.argv.slice(2)
if (option === '--write') {
  const lowered = mapValues(counted, (counts, name) =>
    mapValues(counts, (count, kind) => (before[name] === undefined ? count : Math.min(count, before[name][kind] ?? 0))),
  )
  writeFileSync(join(root, FILE), `${JSON.stringify(lowered, null, 2)}\n`)
} else if (option === '--list') {
  for (const { kind, file, line, name } of faults)
    if (file.startsWith(directory)) console.log(`${file}:${line} ${name ?? ''} ${kind}`)
} else if (option === '--share') {
  const packages = groupBy(Object.keys(directories), (each) => each.split('/')[1])
  for (const [name, parts] of Object.entries(packages)) {
    const sum = (kind) => parts.reduce((total, each) => total + directories[each][kind], 0)
    const share = Math.round((100 * sum('withoutVerb')) / sum('functions'))
    console.log(
      `${name}: ${sum('functions')} functions, ${share} % without a verb, ${sum('prepositions')} end in a preposition`,
    )
  }
} else {
  const problems = Object.entries(counted).flatMap(([name, counts]) =>
    Object.entries(counts)
      .filter(([kind, count]) => count > (before[name]?.[kind] ?? 0))
      .map(([kind, count]) => ({ name, kind, count, limit: before[name]?.[kind] ?? 0 })),
  )
  for (const { name, kind, count, limit } of problems) {
    console.error(`${name}: ${count} ${COUNTS[kind]}, and ${limit} are allowed`)
    const places = faults.filter((each) => each.kind === kind && each.file.startsWith(`${name}/`))
    for (const each of places.slice(0, MOST_SHOWN)) console.error(`  ${each.file}:${each.line} ${each.name ?? ''}`)
    if (places.length > MOST_SHOWN) console.error(`  and more: npm run shape -- --list ${name}`)
  }
  const gains = Object.entries(before).filter(([name, limits]) =>
    Object.entries(limits).some(([kind, limit]) => limit > (counted[name]?.[kind] ?? 0)),
  )
  if (problems.length === 0 && gains.length > 0)
    console.error(
      `Better than the limits: ${gains.map(([name]) => name).join(', ')}. Keep it: npm run shape -- --write`,
    )
  process.exitCode = problems.length + gains.length > 0 ? 1 : 0
}
