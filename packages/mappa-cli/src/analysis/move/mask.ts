import { containsCredential } from '@mappa/core/credentials/credentials'
import { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import { mask } from '@mappa/core/secret/secret'
import { applyEdits } from '@mappa/core/text/edits'
import { findSpelled } from './spelled.ts'

/**
 * Hides secrets in a text that is to be shown, however they are spelled in it.
 *
 * @param secrets their values
 */
export function maskSecrets(text: string, secrets: readonly string[]): string {
  // The longest first: one may hold another.
  const sorted = [...new Set(secrets)].sort((a, b) => b.length - a.length)
  const masked = sorted.reduce((before, secret) => {
    const edits = [...findSpelled(before, secret)].map(({ start, end }) => ({ from: start, to: end, by: mask(secret) }))
    return edits.length === 0 ? before : applyEdits(before, edits)
  }, text)
  return maskAddresses(masked)
}

/** Hides addresses that open something, also those that are no finding. */
function maskAddresses(text: string): string {
  return text.replace(/[a-z][\w+.-]*:\/\/[^\s'"`<>]+/gi, (address) =>
    containsCredential(address) ? mask(address) : address,
  )
}

/**
 * Hides values in the text of an env file that is to be shown.
 *
 * @param isSecret tells the names whose values are not shown
 */
export function maskEnvText(text: string, isSecret: (name: string) => boolean): string {
  const { entries } = ParsedEnvFile.read(text, '')
  const edits = entries
    .filter(({ name }) => isSecret(name))
    .map(({ nameEnd, valueEnd, value }) => ({
      from: nameEnd,
      to: valueEnd,
      by: `=${typeof value === 'string' ? mask(value) : '(secret)'}`,
    }))
  return applyEdits(text, edits)
}
