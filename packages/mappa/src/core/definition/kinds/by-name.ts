import * as makers from './index.ts'
import type { Kind } from './kind.ts'
import { KIND } from './maker.ts'

/** Every kind by its name, for definitions and commands that name one. */
export const kindsByName: ReadonlyMap<string, Kind> = /* @__PURE__ */ new Map(
  Object.values(makers as unknown as Readonly<Record<string, { readonly [KIND]: Kind }>>).map((make) => [
    make[KIND].name,
    make[KIND],
  ]),
)
