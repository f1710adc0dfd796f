import type { Definition } from '@mappa/core/definition/definition'
import { listPatterns } from '@mappa/core/definition/patterns'
import { patternProblem } from '@mappa/core/problems/catalogue/patterns'
import { Reporter } from '@mappa/core/problems/reporter'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { displayValue } from '@mappa/core/secret/display'
import { type Automaton, buildAutomata, type Expression, FEATURES, hasReference } from './automaton.ts'
import { measureCost } from './cost.ts'

/** A text of this length should never take long, whatever the pattern. */
const SHORT = 100
/** So many steps take an engine about a second. */
const MAX_STEPS = 50_000_000

/**
 * Refuses patterns that are proved to take very long on some text: a regular expression that runs can't be stopped. It is done
 * when a definition is checked, by commands and the plugin, and not at each start of a program; there, a pattern is tried only on
 * values up to a length.
 *
 * @throws {SettingsError} naming every such pattern, with a text that shows it
 */
export async function checkPatterns(definition: Definition): Promise<void> {
  const patterns = listPatterns(definition)
  if (patterns.length === 0) return
  const reporter = new Reporter()
  const seen = new Set<string>()
  for (const { path, pattern, most } of patterns) {
    const key = `${path} ${pattern} ${most}`
    if (seen.has(key)) continue
    seen.add(key)
    const found = await toFault(pattern, most)
    if (found !== null)
      reporter.report(
        patternProblem(found.code, { path, pattern: pattern.source, ...found.details } as never, { setting: path }),
      )
  }
  if (reporter.hasErrors) throw new SettingsError({ stage: null, problems: reporter.problems })
}

async function toFault({ source, flags }: RegExp, most: number) {
  const { default: parser } = await import('regjsparser')
  let expression: Expression
  try {
    expression = parser.parse(source, flags, FEATURES)
  } catch {
    // The engine took it, so it is right: it is of a later edition of the language, and can't be checked.
    return null
  }
  const built = buildAutomata(expression, flags)
  const automata = built.filter((each) => each !== null)
  // What a reference reads depends on the way to it, so that a text which shows that it is slow can't be found.
  if (hasReference(expression)) {
    const isProved = automata.length === built.length && worst(automata, most).steps <= MAX_STEPS
    return isProved ? null : { code: 'pattern-unproved' as const, details: { most } }
  }
  const short = worst(automata, Math.min(SHORT, most))
  if (short.steps > MAX_STEPS) {
    const text = displayValue(short.text, { secret: false, widest: 24 })
    return { code: 'pattern-explosive' as const, details: { text } }
  }
  if (worst(automata, most).steps <= MAX_STEPS) return null
  let [fine, slow] = [SHORT, most]
  while (slow - fine > Math.max(1, fine / 20)) {
    const middle = Math.floor((fine + slow) / 2)
    if (worst(automata, middle).steps > MAX_STEPS) slow = middle
    else fine = middle
  }
  return { code: 'pattern-slow' as const, details: { most, limit: fine } }
}

function worst(automata: readonly Automaton[], length: number) {
  return automata
    .map((each) => measureCost(each, length))
    .reduce((a, b) => (b.steps > a.steps ? b : a), { steps: 0, text: '' })
}
