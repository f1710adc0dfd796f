import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import type { Hit } from '@mappa/search/needles'

/** Where a secret was found. */
export type FoundPlace =
  | {
      readonly code:
        | 'secret-in-tracked'
        | 'secret-in-version'
        | 'secret-in-output'
        | 'secret-staged'
        | 'secret-published'
      readonly file: string
    }
  | { readonly code: 'secret-in-path'; readonly file: string; readonly where: string }
  | { readonly code: 'secret-committed'; readonly file: string; readonly commit: string; readonly holders: string }
  | { readonly code: 'secret-in-message' | 'secret-in-file-name'; readonly commit: string }
  | { readonly code: 'secret-in-tag'; readonly tag: string }

/** Makes the problem of a secret that was found. What is to be done with a value that was replaced is something else. */
export function reportSecret({ name, setting, encoding, formerOf }: Hit, { code, ...place }: FoundPlace): Problem {
  const details = { ...place, name, encoding, near: formerOf ?? null }
  const file = 'file' in place ? { file: place.file } : {}
  return guardProblem(code, details as never, { ...file, name: formerOf ?? name, setting })
}
