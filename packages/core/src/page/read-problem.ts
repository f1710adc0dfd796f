import type { Declaration } from '../definition/definition.ts'
import { pageProblem } from '../problems/catalogue/pages.ts'
import type { Location, Problem } from '../problems/problem.ts'
import { makeClosestMatch } from '../text/closest-match.ts'

/**
 * What is wrong with page code that reads a variable for which no value can stand there.
 *
 * @param read the expression, such as `process.env.NIGHT_PLACES`
 * @param name the variable name
 * @param settings all settings of the definition
 * @returns `null` for a public setting that has its value at build time
 */
export function readProblem(
  read: string,
  name: string,
  settings: readonly Declaration[],
  at: Location,
): Problem | null {
  const setting = settings.find((each) => each.name === name || each.formerly.includes(name))
  const place = { ...at, name, setting: setting?.path ?? null }
  if (setting === undefined) {
    const near = makeClosestMatch(settings.map((each) => each.name))(name)
    return pageProblem('read-unknown', { read, near }, place)
  }
  const { path } = setting
  if (!setting.public) {
    return pageProblem('read-not-public', { read, path, what: setting.secret ? 'a secret' : 'not public' }, place)
  }
  return setting.readAt === 'build' ? null : pageProblem('read-at-runtime', { read, path }, place)
}
