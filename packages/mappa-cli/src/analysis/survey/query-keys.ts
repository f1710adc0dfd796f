import { KEY_PARAMETER } from '../../../../mappa/src/core/leaks/credentials.ts'
import type { SourceLiteral } from '../../languages/source.ts'

const PARAMETER = new RegExp(`${KEY_PARAMETER.source}(?!\\$)([\\w.~%-]{8,})`, 'gi')

/** A key among the parameters of an address. */
export interface QueryKey {
  readonly name: string
  readonly value: string
}

/** All keys among the parameters of an address, in their order. */
export function keysInQuery(text: string): readonly QueryKey[] {
  if (!text.includes('=')) return []
  return [...text.matchAll(PARAMETER)].flatMap(([, name, value]) =>
    /\d|%/.test(value!) ? [{ name: name!, value: value! }] : [],
  )
}

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
    const { length } = keysInQuery(each.value)
    if (length < 2 || !isKey(each)) return [each]
    return Array.from({ length }, (_, keyIndex) => (keyIndex === 0 ? each : { ...each, keyIndex }))
  })
}
