import { listLayerFiles } from '@mappa/core/layers/order'
import { stageMeant } from '@mappa/core/problems/option-names'

/**
 * Finds files that lie where layer files belong and bear nearly their names: `.env.txt`, `env.production`,
 * `.env.prod`, `production.env`.
 *
 * @param present the names of the files in the directory
 * @param stage the stage that is checked; files that mean another stage are left to that one
 * @param stages all stages
 */
export function findNearFiles(
  present: readonly string[],
  stage: string,
  stages: readonly string[],
): readonly { file: string; meant: string }[] {
  const read = listLayerFiles(stage)
  const ofOthers = new Set(stages.flatMap((each) => listLayerFiles(each)))
  return present.flatMap((file) => {
    if (ofOthers.has(file)) return []
    const meant = guessMeaning(file, stages)
    return meant !== null && read.includes(meant) && meant !== file ? [{ file, meant }] : []
  })
}

function guessMeaning(file: string, stages: readonly string[]): string | null {
  const words = file
    .toLowerCase()
    .split(/[._\s-]+/)
    .filter((word) => word !== '' && word !== 'txt')
  // `production.env` as well as `.env.production`.
  if (words.at(-1) === 'env' && words[0] !== 'env') words.unshift(words.pop()!)
  const [env, ...rest] = words
  if (env !== 'env' || rest.length > 2) return null
  const local = rest.at(-1) === 'local'
  if (local) rest.pop()
  const suffix = local ? '.local' : ''
  if (rest.length === 0) return `.env${suffix}`
  if (rest.length > 1) return null
  const stage = stageMeant(rest[0]!, stages)
  return stage === null ? null : `.env.${stage}${suffix}`
}
