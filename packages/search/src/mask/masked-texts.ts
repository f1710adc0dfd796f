import { runningProblem } from '@mappa/core/problems/catalogue/running'
import type { Problem } from '@mappa/core/problems/problem'
import type { Resolution } from '@mappa/core/resolve/resolve'
import { mask } from '@mappa/core/secret/secret'
import { isSearchable } from '@mappa/core/values/encodings'
import { toNeedles } from '../needles.ts'
import type { MaskedText } from './masker.ts'
import { listWrittenForms } from './written-forms.ts'

/**
 * What must not be seen in the output of a command: every secret of the stage, as it stands and in base64, percent-encoded, in
 * hexadecimal digits and escaped for JSON.
 *
 * @returns the texts, and a notice for each secret that can't be told apart from other output
 */
export function listMaskedTexts({ settings }: Pick<Resolution, 'settings'>): {
  readonly texts: readonly MaskedText[]
  readonly problems: readonly Problem[]
} {
  const texts: MaskedText[] = []
  const problems: Problem[] = []
  for (const { declaration, masked, text, value } of settings) {
    if (!masked || text === undefined || text === '') continue
    const { name, path } = declaration
    const patterns = toNeedles(name, path, text, value).flatMap((each) => each.patterns)
    if (patterns.length === 0) problems.push(runningProblem('secret-not-masked', { name }, { name, setting: path }))
    const written = patterns.length === 0 ? [] : [...listWrittenForms(text), ...listLines(text)]
    for (const pattern of [...patterns.map((each) => each.text), ...written])
      texts.push({ text: pattern, mask: mask(text) })
  }
  return { texts, problems }
}

/** The lines of a text of several, since whoever prints it may indent them. */
function listLines(text: string): readonly string[] {
  if (!/[\r\n]/.test(text)) return []
  return text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(isSearchable)
    .map((line) => Buffer.from(line).toString('latin1'))
}
