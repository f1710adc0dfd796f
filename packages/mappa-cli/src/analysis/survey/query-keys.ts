import { findQueryKeys } from '@mappa/core/credentials/credentials'
import type { SourceLiteral } from '@mappa/source/source'

/**
 * Lists a text once for each key that it has among its parameters: each is a setting of its own.
 *
 * @param isKey true for a text that is judged by such a key
 */
export function withEveryKey(
  literals: readonly SourceLiteral[],
  isKey: (literal: SourceLiteral) => boolean,
): readonly SourceLiteral[] {
  return literals.flatMap((each) => {
    const { length } = findQueryKeys(each.value)
    if (length < 2 || !isKey(each)) return [each]
    return Array.from({ length }, (_, keyIndex) => (keyIndex === 0 ? each : { ...each, keyIndex }))
  })
}
