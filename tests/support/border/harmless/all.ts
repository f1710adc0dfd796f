import { type HarmlessProject, join } from './project.ts'
import { SITES } from './sites.ts'
import { STARTERS } from './starters.ts'
import { TWISTS } from './twists.ts'

const [plain, ...twists] = TWISTS
const made = (twist: HarmlessProject) =>
  STARTERS.map((starter) => join(starter, { ...twist, name: `${starter.name}, ${twist.name}` }))

/**
 * Every project: each starter as it is built in each way, and the sites. The first twelve are of each sort, since `npm test` tries no
 * more.
 */
export const HARMLESS_PROJECTS: readonly HarmlessProject[] = (() => {
  const plainOnes = made(plain!)
  const others = twists.flatMap(made)
  const early = [
    ...plainOnes.slice(0, 6),
    others[0]!,
    others[STARTERS.length + 1]!,
    ...SITES.slice(0, 3),
    plainOnes[6]!,
  ]
  const all = [...plainOnes, ...others, ...SITES]
  return [...early, ...all.filter((each) => !early.includes(each))]
})()
