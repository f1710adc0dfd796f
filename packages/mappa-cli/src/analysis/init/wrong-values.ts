import { hasErrors, type Problem } from '@mappa/core/problems/problem'
import { Project } from '../../project/project.ts'

/**
 * The values in files that break a rule of the definition, in whatever stage, each once. What is missing is no part of it: a new
 * definition asks for more than there is.
 */
export async function findWrongValues(root: string): Promise<readonly Problem[]> {
  const project = await Project.open({ root })
  const seen = new Set<string>()
  return project.definition.stages
    .flatMap((stage) => project.inspect({ stage, from: 'mappa init' }).problems)
    .filter((each) => each.file !== null && each.line !== null && hasErrors([each]))
    .filter(({ code, file, line, column, name }) => {
      const key = JSON.stringify([code, file, line, column, name])
      return !seen.has(key) && seen.add(key)
    })
}
