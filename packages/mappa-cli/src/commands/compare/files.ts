import { getCurrentDirectory } from '@mappa/node/project/root'
import { compareFiles } from '../../analysis/compare/files.ts'
import { readEnvFile } from '../../analysis/compare/read-file.ts'
import type { Compared } from '../../analysis/compare/table.ts'
import type { CommonOptions } from '../../command-line/common-options.ts'
import { Project } from '../../project/project.ts'

/** Puts env files side by side, each taken by itself. */
export async function ofFiles(names: readonly string[], options: CommonOptions): Promise<Compared> {
  const project = await Project.openWithOrWithoutDefinition(options)
  const files = names.map((name) => [name, readEnvFile(getCurrentDirectory(), name)] as const)
  return {
    comparison: compareFiles(files, project.definitionIfAny),
    problems: files.flatMap(([, file]) => [...file.problems]),
  }
}
