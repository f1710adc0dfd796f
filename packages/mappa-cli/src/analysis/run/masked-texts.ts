import { runningProblem } from '../../../../mappa/src/core/problems/makers/running.ts'
import type { Problem } from '../../../../mappa/src/core/problems/problem.ts'
import { maskOf } from '../../../../mappa/src/core/secret/secret.ts'
import { needlesFor } from '../../../../mappa/src/node/leaks/needles.ts'
import type { Inspection } from '../../../../mappa/src/node/load/load.ts'
import type { MaskedText } from './masker.ts'

/**
 * What must not be seen in the output of a command: every secret of the stage, as it stands and in base64, percent-encoded, in
 * hexadecimal digits and escaped for JSON.
 *
 * @returns the texts, and a notice for each secret that can't be told apart from other output
 */
export function maskedTexts({ settings }: Pick<Inspection, 'settings'>): {
  readonly texts: readonly MaskedText[]
  readonly problems: readonly Problem[]
} {
  const texts: MaskedText[] = []
  const problems: Problem[] = []
  for (const { declaration, masked, text, value } of settings) {
    if (!masked || text === undefined || text === '') continue
    const { name, path } = declaration
    const patterns = needlesFor(name, path, text, value).flatMap((each) => each.patterns)
    if (patterns.length === 0) problems.push(runningProblem('secret-not-masked', { name }, { name, setting: path }))
    for (const pattern of [...patterns.map((each) => each.text), ...base64Lines(text)])
      texts.push({ text: pattern, mask: maskOf(text) })
  }
  return { texts, problems }
}

/** How many characters a line of base64 has, as programs print it: RFC 2045 (MIME) and RFC 7468 (PEM). */
const LINE_WIDTHS = [76, 64]
/** The last line may hold less than can be told apart. */
const SHORTEST_LINE = 8

/** The lines of a long text in base64. */
function base64Lines(text: string): readonly string[] {
  const digits = Buffer.from(text).toString('base64').replace(/=+$/, '')
  return LINE_WIDTHS.filter((width) => digits.length > width).flatMap((width) =>
    (digits.match(new RegExp(`.{1,${width}}`, 'g')) ?? []).filter((line) => line.length >= SHORTEST_LINE),
  )
}
