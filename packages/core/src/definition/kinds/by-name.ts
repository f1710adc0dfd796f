import * as makers from './index.ts'
import type { Kind } from './kind.ts'
import { KIND } from './maker.ts'

let known: ReadonlyMap<string, Kind> | null = null

/**
 * Every kind by its name, for definitions and commands that name one. Put together when it is asked for, so that a bundler leaves out
 * the kinds of a program that names none.
 */
export function kindsByName(): ReadonlyMap<string, Kind> {
  if (known === null) {
    const all = Object.values(makers as unknown as Readonly<Record<string, { readonly [KIND]: Kind }>>)
    known = new Map(all.map((make) => [make[KIND].name, make[KIND]]))
  }
  return known
}
