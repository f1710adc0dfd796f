import type { Template } from '../template/template.ts'
import { holdsCredential } from './credentials.ts'

const ADDRESS = /^[a-z][a-z0-9+.-]*:\/\//i

/**
 * True for a value of a secret that stands where it is written. False where references bring all of it that is secret, as in
 * `postgres://dome:${DB_PASSWORD}@db/dome`: such a value can be committed.
 *
 * @param value as an env file has it
 */
export function holdsOwnSecret(value: string | Template): boolean {
  if (typeof value === 'string') return value !== ''
  const own = listOwnTexts(value).join('')
  return own !== '' && (!ADDRESS.test(own) || holdsCredential(own))
}

/** The fixed pieces of a value, what stands in for a missing reference included. */
function listOwnTexts(value: Template): readonly string[] {
  return value.flatMap((piece) => (typeof piece === 'string' ? [piece] : listOwnTexts(piece.word)))
}
