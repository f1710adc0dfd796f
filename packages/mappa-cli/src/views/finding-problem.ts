import { editorProblem } from '@mappa/core/problems/catalogue/editors'
import type { Problem } from '@mappa/core/problems/problem'
import type { SourcePlace } from '@mappa/source/source'
import type { Finding } from '../analysis/survey/findings.ts'
import type { Read } from '../analysis/survey/reads.ts'

/** Reads of a variable that nobody declares, as problems. */
export function listReadProblems({ name, near, faults }: Read): readonly Problem[] {
  return faults.map(({ file, line, column }) =>
    editorProblem('read-undeclared', { name, near }, { file, line, column, name }),
  )
}

/** A finding at one of its places, as a problem: what pipelines and editors show. */
export function findingProblem({ masked, name, path, secret, why }: Finding, place: SourcePlace): Problem {
  const { file, line, column } = place
  const details = { name, shown: masked, why }
  return editorProblem(secret ? 'secret-in-code' : 'setting-in-code', details, {
    file,
    line,
    column,
    name,
    setting: path,
  })
}
