import type { Definition } from '@mappa/core/definition/definition'
import { findPattern, isStage, type StageTree } from '@mappa/core/definition/stages'
import { findStageName } from '@mappa/core/layers/env-file-name'
import { fs, path } from '../fs/builtin.ts'
import { findNearFiles } from './near-files.ts'

/**
 * The stages of a project: those that the definition names, and those of its patterns that have a layer file in the directory.
 *
 * @param root the directory of the project
 * @param definition its stages, and the directories that it shares with others
 */
export function listPresentStages(
  root: string,
  definition: StageTree & Pick<Definition, 'layersFrom'>,
): readonly string[] {
  const { stages, stagePatterns, layersFrom } = definition
  if (stagePatterns.length === 0) return stages
  const files = ['', ...layersFrom].flatMap((directory) => listNames(path.join(root, directory)))
  const found = files.flatMap((file) => {
    const stage = findStageName(file)
    return stage !== null && isStage(definition, stage) && findPattern(stagePatterns, stage) !== null ? [stage] : []
  })
  return [...new Set([...stages, ...found.sort()])]
}

/**
 * The layer files in the directory of a project that are of no stage, so that nothing reads them; without those whose names are nearly
 * right, which are told where layers are read.
 */
export function findForeignFiles(
  root: string,
  definition: StageTree,
): readonly { readonly file: string; readonly stage: string }[] {
  const names = listNames(root)
  const near = new Set(
    definition.stages.flatMap((stage) => findNearFiles(names, stage, definition.stages)).map(({ file }) => file),
  )
  return names.flatMap((file) => {
    const stage = findStageName(file)
    return stage === null || isStage(definition, stage) || near.has(file) ? [] : [{ file, stage }]
  })
}

function listNames(root: string): readonly string[] {
  try {
    return fs.readdirSync(root)
  } catch {
    // A directory that can't be listed is told where its layers are read.
    return []
  }
}
