import { acceptText, acceptValue } from '../definition/accept.ts'
import type { Declaration } from '../definition/definition.ts'
import { CONTAINS_SECRET, toFailureProblem } from '../definition/failure-problem.ts'
import { describeOriginLabel, findRangeEnd } from '../layers/layer.ts'
import { type Candidate, listSaid, type MergedLayers } from '../layers/merge.ts'
import { type Location, problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { displayValue } from '../secret/display.ts'
import type { Expander } from '../template/expand.ts'
import { toPlaceholder } from '../text/placeholder.ts'
import { copyFrozen } from '../values/copy-frozen.ts'
import { findValueInUse, reportFormerNames } from './in-use.ts'
import { findSuspiciousValue } from './oddity.ts'
import { type ResolvedSetting, resolvedSetting } from './resolved-setting.ts'
import { descriptionClause, type WhereToPut } from './where.ts'

/** What the settings of one stage are worked out with. */
export interface Tools {
  readonly merged: MergedLayers
  readonly expander: Expander
  readonly closest: (name: string) => string | null
  readonly putInto: WhereToPut
  readonly reporter: Reporter
  readonly isSecretInside: (text: string) => boolean
}

const NOTHING: ReadonlySet<string> = new Set()

/** What any layer has for a secret, also where another one overrides it, or under a former name. */
export function listSecretTexts(
  declarations: readonly Declaration[],
  merged: MergedLayers,
  expander: Expander,
): string[] {
  return declarations
    .filter(({ secret }) => secret)
    .flatMap(({ name, formerly }) => [name, ...formerly])
    .flatMap((name) =>
      listSaid(merged.layers, name).flatMap((candidate, at) => {
        const { value } = candidate
        if (typeof value === 'string') return [value]
        // Others are never worked out, so that nothing is told of their references.
        const pieces = value.filter((piece) => typeof piece === 'string')
        return [...pieces, at === 0 ? (expander.expand(name, candidate).text ?? '') : '']
      }),
    )
}

/** Works out one setting, and reports what is wrong with it. */
export function resolveOne(
  declaration: Declaration,
  { merged, expander, closest, putInto, reporter, isSecretInside }: Tools,
): ResolvedSetting {
  const { name, path, secret } = declaration
  const { name: said, candidate: winner } = findValueInUse(declaration, merged) ?? { name, candidate: undefined }
  if (declaration.formerly.length > 0) reportFormerNames(declaration, said, merged, reporter)
  const candidates = () => merged.candidates(said)
  const unset = { declaration, value: undefined, text: undefined, masked: secret, candidates, from: NOTHING }
  if (winner === undefined) {
    if (!declaration.optional) {
      const put = putInto(declaration)
      const details = { name, description: descriptionClause(declaration), put, near: closest(name) }
      reporter.report(problem('missing', details, { name, setting: path }))
    }
    return resolvedSetting({ ...unset, origin: null, valid: declaration.optional })
  }
  const { origin } = winner
  const expanded = expander.expand(said, winner)
  if (expanded.text === undefined) return resolvedSetting({ ...unset, origin, valid: false })
  const masked = secret || expanded.secret !== null
  const place = (isHidden = masked) => ({
    file: origin.file,
    layer: winner.layer.title,
    line: origin.line,
    column: origin.column,
    ...findRangeEnd(winner),
    name,
    setting: path,
    codeFrame: isHidden ? null : winner.codeFrame(),
  })
  // A list without items was given as one; an empty text, in a file, counts as missing.
  if (expanded.text === '' && winner.typed === undefined && !declaration.allowEmpty) {
    return emptyValue(declaration, candidates(), putInto, reporter, place())
  }
  if (expanded.secret !== null && !secret) {
    reporter.report(problem('holds-secret', { name, to: expanded.secret }, place()))
  }
  if (expanded.text === toPlaceholder(name)) {
    reporter.report(problem('placeholder-left', { name }, place()))
    return resolvedSetting({ ...unset, origin, valid: false })
  }
  const { text, from } = expanded
  // A default was accepted with the definition.
  if (winner.layer.kind === 'defaults') {
    const value = copyFrozen(declaration.default)
    return resolvedSetting({ declaration, value, text, masked, valid: true, origin, candidates, from })
  }
  const given = { text, typed: winner.typed, isSecret: masked }
  const found = acceptOne(declaration, given, place, { reporter, isSecretInside })
  return resolvedSetting({ declaration, text, origin, candidates, from, ...found })
}

/** True for a value that is wrong, or that may be the path of nothing. */
const isQuestionable = ({ kind, options }: Declaration, valid: boolean) =>
  !valid || options.mustExist === true || kind.items?.(options).options.mustExist === true

/** True for a value that is wrong or odd, so that messages would show it. */
export function isSuspect(declaration: Declaration, text: string): boolean {
  return (
    isQuestionable(declaration, acceptText(declaration, text).failures.length === 0) ||
    findSuspiciousValue(declaration, text) !== null
  )
}

/** Takes a value and reports what is wrong or odd with it, without the value if it is a secret or contains one. */
function acceptOne(
  declaration: Declaration,
  { text, typed, isSecret }: { text: string; typed: unknown; isSecret: boolean },
  placeOf: (isHidden: boolean) => Location,
  { reporter, isSecretInside }: Pick<Tools, 'reporter' | 'isSecretInside'>,
): Pick<ResolvedSetting, 'value' | 'masked' | 'valid'> {
  const { name } = declaration
  const { value, failures } = typed === undefined ? acceptText(declaration, text) : acceptValue(declaration, typed)
  const valid = failures.length === 0
  const odd = valid ? findSuspiciousValue(declaration, text) : null
  const contains = !isSecret && (odd !== null || isQuestionable(declaration, valid)) && isSecretInside(text)
  const masked = isSecret || contains
  const place = () => placeOf(masked)
  for (const failed of failures)
    reporter.report(toFailureProblem(failed, { name, text, secret: masked, contains }, place()))
  const formatShown = () => (contains ? CONTAINS_SECRET : displayValue(text, { secret: masked }))
  if (odd !== null) reporter.report(problem(odd, { name, shown: formatShown() }, place()))
  reportDeprecation(declaration, reporter, place)
  return { value, masked, valid }
}

function reportDeprecation({ name, options }: Declaration, reporter: Reporter, place: () => Location): void {
  const { deprecated = false } = options
  if (deprecated === false) return
  const near = deprecated === true ? null : String(deprecated)
  reporter.report(problem('setting-deprecated', { name, near }, place()))
}

/** An empty text counts as missing, but never lets a lower file shine through in silence. */
function emptyValue(
  declaration: Declaration,
  candidates: readonly Candidate[],
  putInto: WhereToPut,
  reporter: Reporter,
  place: object,
): ResolvedSetting {
  const { name, optional } = declaration
  const winner = candidates[0]!
  const from = describeOriginLabel(winner.origin, winner.layer.title)
  const hidden = candidates.slice(1).find((each) => each.layer.kind !== 'defaults' && each.value !== '')
  const fallback = candidates.find(({ layer }) => layer.kind === 'defaults')
  const usable = fallback !== undefined || optional
  if (!usable) {
    reporter.report(
      problem('empty', { name, description: descriptionClause(declaration), from, put: putInto(declaration) }, place),
    )
  }
  if (hidden !== undefined) {
    const details = { name, from, hidden: describeOriginLabel(hidden.origin, hidden.layer.title) }
    reporter.report(problem('empty-hides-value', details, place))
  }
  const value = fallback === undefined ? undefined : copyFrozen(declaration.default)
  return resolvedSetting({
    declaration,
    value,
    text: typeof fallback?.value === 'string' ? fallback.value : undefined,
    masked: declaration.secret,
    valid: usable,
    origin: fallback?.origin ?? (usable ? null : winner.origin),
    candidates: () => candidates,
    from: NOTHING,
  })
}
