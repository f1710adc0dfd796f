import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { maskSecrets } from '../analysis/move/mask.ts'
import { type Finding, listValues } from '../analysis/survey/findings.ts'

/** A value that is still in the code, as a person sees it. */
export interface FindingView {
  /** To name it by, from 1. */
  readonly number: number
  /** The variable name proposed for it. */
  readonly name: string
  /** The path proposed for it. */
  readonly path: string
  readonly kind: string
  readonly secret: boolean
  /** How sure it is that this should be a setting, in percent. */
  readonly confidence: number
  readonly why: string
  /** The value, masked if it is a secret. */
  readonly shown: string
  readonly places: readonly FindingPlace[]
}

/** A place at which a finding stands. */
export interface FindingPlace {
  readonly file: string
  readonly line: number
  readonly column: number
  /** The line without secrets; `null` where it can't be read. */
  readonly code: string | null
}

/** The longest piece of a line to show, in characters. */
const WIDEST = 160

/**
 * Makes views of findings.
 *
 * @param findings all that a survey found: each may stand in the line of another
 * @param lineOf gives a line of a source
 */
export function findingViews(
  findings: readonly Finding[],
  lineOf: (file: string, line: number) => string | null,
): readonly FindingView[] {
  const secrets = findings.filter(({ secret }) => secret).flatMap(listValues)
  return findings.map(({ number, name, path, kind, secret, confidence, why, masked, places }) => ({
    number,
    name,
    path,
    kind,
    secret,
    confidence: Math.round(confidence * 100),
    why,
    shown: masked,
    places: places.map(({ file, line, column }) => ({
      file,
      line,
      column,
      code: shownLine(lineOf(file, line), secrets),
    })),
  }))
}

function shownLine(line: string | null, secrets: readonly string[]): string | null {
  if (line === null) return null
  const masked = escapeInvisible(maskSecrets(line, secrets).trim())
  return masked.length > WIDEST ? `${masked.slice(0, WIDEST - 1)}…` : masked
}
