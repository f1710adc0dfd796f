import { makeSetting } from '../setting.ts'
import type { Kind } from './kind.ts'

/** Where the function that makes settings of a kind keeps the kind. */
export const KIND: unique symbol = Symbol('kind')

/** Makes the function of `setting` for a kind. The kind has its type, which nothing at runtime could check. */
export function maker<T, Make>(kind: Kind<T, Make>): Make {
  const make = (description: string, options?: object) => makeSetting(kind as Kind, description, options)
  return Object.assign(make, { [KIND]: kind }) as Make
}
