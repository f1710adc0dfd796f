import { kinds } from './kinds/index.ts'
import type { Kind } from './kinds/kind.ts'
import { makeSetting } from './setting.ts'

/** A function for each kind: `setting.string`, `setting.port` and so on. */
export type Makers = { readonly [Name in keyof typeof kinds]: NonNullable<(typeof kinds)[Name]['make']> }

/**
 * Makes settings, with one function for each kind. The description comes first; it is what messages, help and
 * derived files say.
 *
 * @example
 * ```ts
 * setting.port('Port the dome service listens on', { default: 4100 })
 * setting.string('Key the dome controller asks for', { secret: true, minLength: 24 })
 * ```
 */
export const setting = Object.freeze(
  Object.fromEntries(
    Object.values(kinds).map((kind) => [
      kind.name,
      (description: string, options?: object) => makeSetting(kind as Kind, description, options),
    ]),
  ),
) as unknown as Makers
