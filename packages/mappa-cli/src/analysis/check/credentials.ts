import { containsCredential } from '@mappa/core/credentials/credentials'
import { describeOriginLabel } from '@mappa/core/layers/layer'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import type { Resolution } from '@mappa/core/resolve/resolve'

/** Notices of values that open something and whose settings are neither secret nor public on purpose. */
export function withCredentials<I extends Resolution>(inspection: I): I {
  const found = inspection.settings.flatMap(({ declaration, text, masked, origin }): Problem[] => {
    const { name, path, public: isPublic } = declaration
    if (masked || isPublic || text === undefined || origin === null || !containsCredential(text)) return []
    const title = inspection.layers.find(({ id }) => id === origin.layer)?.title ?? origin.layer
    const place = { file: origin.file, line: origin.line, column: origin.column, name, setting: path }
    const details = { name, path, from: describeOriginLabel(origin, title) }
    return [guardProblem('credential-not-secret', details, { ...place, stage: inspection.stage })]
  })
  return { ...inspection, problems: [...inspection.problems, ...found] }
}
