import type { Declaration } from '../definition/definition.ts'
import { publicValueProblem } from '../problems/catalogue/public-values.ts'
import type { Problem } from '../problems/problem.ts'
import type { ResolvedSetting } from '../resolve/resolved-setting.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { binary, utf8 } from '../values/bytes.ts'
import { isSearchable } from '../values/encodings.ts'
import { listForms } from '../values/forms.ts'

/** Names the variables whose values stand in a text, in whatever form. */
export type FindValues = (text: string) => ReadonlySet<string>

/** What may be in a page, and how it is looked for. */
export interface PublicRules {
  /**
   * Private settings, by their variable names, whose values pages may have. Secrets may not.
   * @default []
   */
  readonly allowInPage?: readonly string[] | undefined
  /**
   * Makes what looks for the values of settings.
   * @default every form of a value in every encoding, as it stands
   */
  readonly makeFind?: (hidden: readonly ResolvedSetting[]) => FindValues
}

/**
 * Holds public values against those that no page may have: one that is made of one by references, however many lie between them,
 * or that holds one, hands it out.
 */
export function findPublicFaults(
  settings: readonly ResolvedSetting[],
  { allowInPage = [], makeFind = findForms }: PublicRules = {},
): Problem[] {
  const hidden = settings.filter(
    ({ declaration, masked }) => !declaration.public && (masked || !allowInPage.includes(declaration.name)),
  )
  const wrong = findWrongNames(settings, allowInPage)
  const find = makeFind(hidden.filter(({ masked, text }) => masked && text))
  const faults = settings.flatMap((shown) => {
    const { name, path, public: isPublic } = shown.declaration
    if (!isPublic || !shown.text) return []
    const { file = null, line = null, column = null } = shown.origin ?? {}
    const place = { file, line, column, name, setting: path }
    const texts = listForms(shown.text, shown.value).map(({ text }) => text)
    const held = find(texts.join('\0'))
    return hidden.flatMap((other) => {
      const { name: own, formerly } = other.declaration
      const refers = [own, ...formerly].some((each) => shown.from.has(each))
      if (!refers && !held.has(own) && !isSame(other, shown.text!)) return []
      const code = refers ? 'public-refers-to-private' : 'public-is-private'
      const what = other.masked ? 'a secret' : 'not public'
      return [publicValueProblem(code, { name, other: own, what }, place)]
    })
  })
  return [...wrong, ...faults]
}

/** Everything that is wrong with the names of settings that may be in pages: a name without effect would be silent. */
function findWrongNames(settings: readonly ResolvedSetting[], names: readonly string[]): Problem[] {
  return names.flatMap((name) => {
    const setting = settings.find(({ declaration }) => declaration.name === name)?.declaration
    const reason = explainWrongName(setting)
    const near = setting === undefined ? makeClosestMatch(settings.map((each) => each.declaration.name))(name) : null
    return reason === null ? [] : [publicValueProblem('allow-in-page-wrong', { name, reason, near }, { name })]
  })
}

function explainWrongName(setting: Declaration | undefined): string | null {
  if (setting === undefined) return 'no setting has that name'
  if (setting.secret) return 'it is a secret'
  return setting.public ? 'it is public anyway' : null
}

/** A value that is no secret may be a part of a public one; the whole of it may not. */
function isSame({ text, value }: ResolvedSetting, shown: string): boolean {
  return [text, value].some((each) => typeof each === 'string' && isSearchable(each) && shown === each)
}

/** Looks for every form of each value, as text and encoded. */
function findForms(hidden: readonly ResolvedSetting[]): FindValues {
  const needles = hidden.flatMap(({ declaration: { name }, text, value }) =>
    listForms(text!, value)
      .filter((each) => isSearchable(each.text))
      .flatMap((each) => each.listPatterns().map((encoded) => [name, encoded.text] as const)),
  )
  return (text) => {
    const bytes = binary(utf8(text))
    return new Set(needles.flatMap(([name, each]) => (bytes.includes(each) ? [name] : [])))
  }
}
