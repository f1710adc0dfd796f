// npm run endurance: every long run with its full count. npm run endurance -- texts 1000 7: one of them, how often, and from which seed.
import { LONG_RUNS } from '@mappa/tests/endurance/all'

const [name, count, seed = '20261126'] = process.argv.slice(2)
const chosen = LONG_RUNS.filter((each) => name === undefined || each.name === name)
if (chosen.length === 0) {
  console.error(`There is no ${name}: ${LONG_RUNS.map((each) => each.name).join(', ')}.`)
  process.exit(2)
}
for (const each of chosen) {
  const times = count === undefined ? each.long : Number(count)
  const began = performance.now()
  try {
    await each.run(times, Number(seed))
    console.log(
      `passed  ${each.name}: ${times} times in ${Math.round((performance.now() - began) / 1000)} s, from seed ${seed}`,
    )
  } catch (error) {
    console.log(`FAILED  ${each.name}, from seed ${seed}: ${each.promise}\n${String(error).slice(0, 4000)}`)
    process.exitCode = 1
  }
}
