import { EnvReading } from '../envfile/reading.ts'
import { maskOf } from '../secret/secret.ts'
import { opensSomething } from '../survey/credentials.ts'
import { applyEdits } from '../text/edits.ts'

/**
 * Hides secrets in a text that is to be shown: as they stand, and escaped as in code.
 *
 * @param secrets their values
 */
export function maskSecrets(text: string, secrets: readonly string[]): string {
  const forms = new Map<string, string>()
  for (const secret of secrets) {
    const escaped = JSON.stringify(secret).slice(1, -1)
    for (const form of [secret, escaped, escaped.replaceAll('\\"', '"').replaceAll("'", "\\'")]) {
      forms.set(form, maskOf(secret))
    }
  }
  let masked = text
  // The longest first: one may hold another.
  for (const [form, mask] of [...forms].sort(([a], [b]) => b.length - a.length)) masked = masked.replaceAll(form, mask)
  return maskAddresses(masked)
}

/** Hides addresses that open something, also those that are no finding. */
function maskAddresses(text: string): string {
  return text.replace(/[a-z][\w+.-]*:\/\/[^\s'"`<>]+/gi, (address) =>
    opensSomething(address) ? maskOf(address) : address,
  )
}

/**
 * Hides values in the text of an env file that is to be shown.
 *
 * @param isSecret tells the names whose values are not shown
 */
export function maskEnvText(text: string, isSecret: (name: string) => boolean): string {
  const { entries } = EnvReading.read(text, '')
  const edits = entries
    .filter(({ name }) => isSecret(name))
    .map(({ nameEnd, valueEnd, value }) => ({
      from: nameEnd,
      to: valueEnd,
      by: `=${typeof value === 'string' ? maskOf(value) : '(secret)'}`,
    }))
  return applyEdits(text, edits)
}
