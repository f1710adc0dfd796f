import type { Declaration } from '../definition/definition.ts'
import { originLabel } from '../layers/layer.ts'
import type { Candidate, MergedLayers } from '../layers/merge.ts'
import { type LoadingCode, type Problem, type ProblemDetails, problem } from '../problems/problem.ts'
import { valueInUse } from '../resolve/in-use.ts'
import type { Reference, Template } from './template.ts'

/** The most characters one value may have when its references are filled in: 1 MiB. */
const LARGEST_VALUE = 1024 * 1024
/** The most characters that all values with references may have together: 16 MiB. */
const LARGEST_TOTAL = 16 * 1024 * 1024
/** Longer chains of references are refused, so that no file can exhaust the stack. */
const MAX_CHAIN = 200

/** A value with its references filled in. */
export interface Expanded {
  /** The text; `undefined` where an error, reported already, leaves none. */
  readonly text: string | undefined
  /** The name of a secret that the text contains. */
  readonly secret: string | null
}

/** Fills in the references of values across merged layers. */
export interface Expander {
  /** The value of a candidate. Each is worked out once. */
  readonly expand: (name: string, candidate: Candidate) => Expanded
  /** What went wrong so far. */
  readonly problems: readonly Problem[]
  /** Every name that a value referred to. */
  readonly used: ReadonlySet<string>
}

/**
 * Makes an expander.
 *
 * @param merged the layers
 * @param declared the setting of a name, if it is one
 * @param near the name that was probably meant
 */
export function makeExpander(
  merged: MergedLayers,
  declared: (name: string) => Declaration | undefined,
  near: (name: string) => string | null,
): Expander {
  const problems: Problem[] = []
  const used = new Set<string>()
  const done = new Map<string, Expanded>()
  /** The values that are being worked out, outermost first. */
  const open: { key: string; name: string; candidate: Candidate }[] = []
  let total = 0

  function expand(name: string, candidate: Candidate): Expanded {
    const isSecret = declared(name)?.secret === true
    if (candidate.broken) return { text: undefined, secret: null }
    if (typeof candidate.value === 'string') return { text: candidate.value, secret: isSecret ? name : null }
    const key = `${candidate.rank} ${name}`
    const known = done.get(key)
    if (known !== undefined) return known
    const outer = open.findIndex((each) => each.key === key)
    if (outer >= 0) return refuse('reference-circle', { circle: circleFrom(outer) })
    if (open.length >= MAX_CHAIN) return refuse('reference-chain', { name: open[0]!.name })
    open.push({ key, name, candidate })
    const { text, secret } = fill(candidate.value)
    let result: Expanded = { text, secret: isSecret ? name : secret }
    if (text !== undefined) {
      total += text.length
      if (total > LARGEST_TOTAL) result = refuse('values-too-large', { name })
    }
    open.pop()
    done.set(key, result)
    return result
  }

  function fill(template: Template): Expanded {
    let text: string | undefined = ''
    let secret: string | null = null
    for (const piece of template) {
      const filled: Expanded = typeof piece === 'string' ? { text: piece, secret: null } : refer(piece)
      secret ??= filled.secret
      if (text === undefined || filled.text === undefined) {
        text = undefined
      } else if (text.length + filled.text.length > LARGEST_VALUE) {
        text = refuse('value-too-large', { name: open.at(-1)!.name }).text
      } else {
        text += filled.text
      }
    }
    return { text, secret }
  }

  function refer({ name, operator, word }: Reference): Expanded {
    used.add(name)
    const found = textOf(name)
    if (found !== undefined && found.text === undefined) return found
    const empty = operator.startsWith(':') ? found === undefined || found.text === '' : found === undefined
    switch (operator) {
      case '':
        break
      case ':+':
      case '+':
        return empty ? { text: '', secret: null } : fill(word)
      case ':-':
      case '-':
        return empty ? fill(word) : found!
      default:
        if (!empty) break
        return demand(name, word)
    }
    if (found !== undefined) return found
    const from = open.at(-1)!
    const setting = declared(name)
    const itself = isItself(name)
    // A required setting that is missing is reported by itself.
    if (setting !== undefined && !setting.optional && !itself) return { text: undefined, secret: null }
    if (isConfidential()) return refuse('reference-in-secret', { name: from.name })
    if (itself) return refuse('reference-to-itself', { name })
    const suggestion = near(name)
    return refuse('reference-to-nothing', { name: from.name, to: name, near: suggestion === name ? null : suggestion })
  }

  /** What a name stands for: of a setting the value that the setting itself has, under whichever name, or its default. */
  function textOf(name: string): Expanded | undefined {
    const from = open.at(-1)!
    const setting = declared(name)
    const below = isItself(name) ? from.candidate.rank : undefined
    if (setting === undefined) {
      const candidate = merged.winner(name, below)
      return candidate === undefined ? undefined : expand(name, candidate)
    }
    // Another name of the same setting may stand in the same layer; only the entry itself looks below.
    const other = name === from.name || below === undefined ? undefined : merged.winner(name)
    const inUse = other === undefined ? valueInUse(setting, merged, below) : { name, candidate: other }
    if (inUse === undefined) return undefined
    const found = expand(inUse.name, inUse.candidate)
    // An empty text counts as missing, for whoever refers to it as for the setting.
    const fallback = found.text === '' && !setting.allowEmpty ? merged.winner(setting.name, 1) : undefined
    return fallback === undefined ? found : expand(setting.name, fallback)
  }

  /** True for a name of the setting whose value is being filled in. */
  function isItself(name: string): boolean {
    const from = open.at(-1)!.name
    return name === from || (declared(name) !== undefined && declared(name) === declared(from))
  }

  /** True where the text that is being filled in belongs to a secret, so that nothing of it may be told. */
  function isConfidential(): boolean {
    return open.some((each) => declared(each.name)?.secret === true)
  }

  function demand(to: string, word: Template): Expanded {
    const { name } = open.at(-1)!
    if (isConfidential()) return refuse('reference-in-secret', { name })
    // Only a fixed text is repeated; a reference in it could lead to a secret.
    const why = word.length === 1 && typeof word[0] === 'string' ? word[0].slice(0, 200) : 'it is required here'
    return refuse('reference-demanded', { name, to, why })
  }

  function refuse<Code extends LoadingCode>(code: Code, details: ProblemDetails<Code>): Expanded {
    const { name, candidate } = open.at(-1)!
    const { file, line, column } = candidate.origin
    const setting = declared(name)?.path ?? null
    problems.push(problem(code, details, { file, layer: candidate.layer.title, line, column, name, setting }))
    return { text: undefined, secret: null }
  }

  function circleFrom(outer: number): string {
    const steps = open
      .slice(outer)
      .map((each) => `${each.name} (${originLabel(each.candidate.origin, each.candidate.layer.title)})`)
    return [...steps, open[outer]!.name].join(' → ')
  }

  return { expand, problems, used }
}
