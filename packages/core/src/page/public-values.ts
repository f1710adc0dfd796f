import { publicValueProblem } from '../problems/catalogue/public-values.ts'
import type { Problem } from '../problems/problem.ts'
import type { ResolvedSetting } from '../resolve/resolved-setting.ts'
import { isSearchable } from '../values/encodings.ts'

/**
 * Holds public values against those that no page may have: one that is the same, or is made of one by a reference, hands it out.
 *
 * @param allowInPage private settings, by their variable names, whose values pages may have
 */
export function findPublicFaults(settings: readonly ResolvedSetting[], allowInPage: readonly string[] = []): Problem[] {
  const hidden = settings.filter(
    ({ declaration, masked }) => !declaration.public && (masked || !allowInPage.includes(declaration.name)),
  )
  return settings.flatMap((shown) => {
    const { name, path, public: isPublic } = shown.declaration
    if (!isPublic || shown.text === undefined || shown.text === '') return []
    const referred = findNames(shown)
    return hidden.flatMap((other) => {
      const refers = referred.has(other.declaration.name)
      if (!refers && !holds(shown.text!, other)) return []
      const code = refers ? 'public-refers-to-private' : 'public-is-private'
      const what = other.masked ? 'a secret' : 'not public'
      const { file = null, line = null, column = null } = shown.origin ?? {}
      return [
        publicValueProblem(
          code,
          { name, other: other.declaration.name, what },
          { file, line, column, name, setting: path },
        ),
      ]
    })
  })
}

/** The variables that the text of a setting refers to. */
function findNames({ candidates }: ResolvedSetting): ReadonlySet<string> {
  const value = candidates()[0]?.value
  return new Set(
    value === undefined || typeof value === 'string'
      ? []
      : value.flatMap((each) => (typeof each === 'string' ? [] : each.name)),
  )
}

/** A value that is no secret may be a part of a public one; the whole of it, or any part of a secret, may not. */
function holds(shown: string, { text, value, masked }: ResolvedSetting): boolean {
  const texts = [text, value].filter((each): each is string => typeof each === 'string' && isSearchable(each))
  return texts.some((each) => (masked ? shown.includes(each) : shown === each))
}
