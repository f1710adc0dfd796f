import { originLabel } from '../../../../mappa-settings/src/core/layers/layer.ts'
import { opensSomething } from '../../../../mappa-settings/src/core/leaks/credentials.ts'
import { guardProblem } from '../../../../mappa-settings/src/core/problems/makers/guard.ts'
import type { Problem } from '../../../../mappa-settings/src/core/problems/problem.ts'
import type { Resolution } from '../../../../mappa-settings/src/core/resolve/resolve.ts'

/** Notices of values that open something and whose settings are neither secret nor public on purpose. */
export function withCredentials<I extends Resolution>(inspection: I): I {
  const found = inspection.settings.flatMap(({ declaration, text, masked, origin }): Problem[] => {
    const { name, path, public: isPublic } = declaration
    if (masked || isPublic || text === undefined || origin === null || !opensSomething(text)) return []
    const title = inspection.layers.find(({ id }) => id === origin.layer)?.title ?? origin.layer
    const place = { file: origin.file, line: origin.line, column: origin.column, name, setting: path }
    const details = { name, path, from: originLabel(origin, title) }
    return [guardProblem('credential-not-secret', details, { ...place, stage: inspection.stage })]
  })
  return { ...inspection, problems: [...inspection.problems, ...found] }
}
