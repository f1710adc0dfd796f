import type { Declaration } from '../definition/definition.ts'
import { describeOriginLabel, findRangeEnd } from '../layers/layer.ts'
import type { Candidate, MergedLayers } from '../layers/merge.ts'
import { type LoadingCode, type Problem, type ProblemDetails, problem } from '../problems/problem.ts'
import { findValueInUse, type InUse } from '../resolve/in-use.ts'
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
  /** The variables whose values the text contains, also by way of others. */
  readonly from: ReadonlySet<string>
}

const NOTHING: ReadonlySet<string> = new Set()

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
  return new LayerExpander(merged, declared, near)
}

const toExpanded = (text: string | undefined, secret: string | null = null): Expanded => ({
  text,
  secret,
  from: NOTHING,
})

/** A value that is being worked out. */
interface OpenValue {
  readonly key: string
  readonly name: string
  readonly candidate: Candidate
}

class LayerExpander implements Expander {
  readonly problems: Problem[] = []
  readonly used = new Set<string>()
  readonly #merged: MergedLayers
  readonly #declared: (name: string) => Declaration | undefined
  readonly #near: (name: string) => string | null
  readonly #done = new Map<string, Expanded>()
  /** The values that are being worked out, outermost first. */
  readonly #open: OpenValue[] = []
  #total = 0

  constructor(
    merged: MergedLayers,
    declared: (name: string) => Declaration | undefined,
    near: (name: string) => string | null,
  ) {
    this.#merged = merged
    this.#declared = declared
    this.#near = near
  }

  expand(name: string, candidate: Candidate): Expanded {
    if (candidate.broken) return toExpanded(undefined)
    const secret = this.#declared(name)?.secret === true ? name : null
    if (typeof candidate.value === 'string') return toExpanded(candidate.value, secret)
    // Of several lines with one name in a file, each has a value of its own.
    const key = `${candidate.rank} ${candidate.origin.line ?? ''} ${name}`
    const known = this.#done.get(key)
    if (known !== undefined) return known
    const outer = this.#open.findIndex((each) => each.key === key)
    if (outer >= 0) return this.#refuse('reference-circle', { circle: this.#findCircle(outer) })
    if (this.#open.length >= MAX_CHAIN) return this.#refuse('reference-chain', { name: this.#open[0]!.name })
    this.#open.push({ key, name, candidate })
    const filled = this.#withinTotal(name, this.#fill(candidate.value))
    this.#open.pop()
    const result = { ...filled, secret: secret ?? filled.secret }
    this.#done.set(key, result)
    return result
  }

  #withinTotal(name: string, filled: Expanded): Expanded {
    this.#total += filled.text?.length ?? 0
    if (filled.text === undefined || this.#total <= LARGEST_TOTAL) return filled
    return this.#refuse('values-too-large', { name })
  }

  #fill(template: Template): Expanded {
    let text: string | undefined = ''
    let secret: string | null = null
    let from = NOTHING
    for (const piece of template) {
      const filled = typeof piece === 'string' ? toExpanded(piece) : this.#refer(piece)
      secret ??= filled.secret
      // Each name once, however often it is referred to.
      if (filled.from.size > 0) from = new Set([...from, ...filled.from])
      if (text === undefined || filled.text === undefined) text = undefined
      else if (text.length + filled.text.length > LARGEST_VALUE)
        text = this.#refuse('value-too-large', { name: this.#inner.name }).text
      else text += filled.text
    }
    return { text, secret, from }
  }

  /** What a reference stands for. */
  #refer({ name, operator, word }: Reference): Expanded {
    this.used.add(name)
    const found = this.#getText(name)
    if (found !== undefined && found.text === undefined) return found
    const isEmpty = operator.startsWith(':') ? !found?.text : found === undefined
    if (operator.endsWith('+')) return isEmpty ? toExpanded('') : this.#fill(word)
    if (isEmpty && operator.endsWith('-')) return this.#fill(word)
    if (isEmpty && operator.endsWith('?')) return this.#demand(name, word)
    return found === undefined ? this.#missing(name) : { ...found, from: new Set([name, ...found.from]) }
  }

  /** What to say about a reference to a name that nothing sets. */
  #missing(name: string): Expanded {
    const setting = this.#declared(name)
    const itself = this.#isItself(name)
    // A required setting that is missing is reported by itself.
    if (setting !== undefined && !setting.optional && !itself) return toExpanded(undefined)
    const from = this.#inner.name
    if (this.#isConfidential()) return this.#refuse('reference-in-secret', { name: from })
    if (itself) return this.#refuse('reference-to-itself', { name })
    const near = this.#near(name)
    return this.#refuse('reference-to-nothing', { name: from, to: name, near: near === name ? null : near })
  }

  /** What a name stands for: of a setting the value that the setting itself has, under whichever name, or its default. */
  #getText(name: string): Expanded | undefined {
    const setting = this.#declared(name)
    const below = this.#isItself(name) ? this.#inner.candidate.rank : undefined
    if (setting === undefined) {
      const candidate = this.#merged.winner(name, below)
      return candidate === undefined ? undefined : this.expand(name, candidate)
    }
    const inUse = this.#inUse(name, setting, below)
    if (inUse === undefined) return undefined
    const found = this.expand(inUse.name, inUse.candidate)
    // An empty text counts as missing, for whoever refers to it as for the setting.
    const fallback = found.text === '' && !setting.allowEmpty ? this.#merged.winner(setting.name, 1) : undefined
    return fallback === undefined ? found : this.expand(setting.name, fallback)
  }

  /** The value that a setting has, under the name by which it is referred to, or below the value that refers to itself. */
  #inUse(name: string, setting: Declaration, below: number | undefined): InUse | undefined {
    // Another name of the same setting may stand in the same layer; only the entry itself looks below.
    const other = name === this.#inner.name || below === undefined ? undefined : this.#merged.winner(name)
    return other === undefined ? findValueInUse(setting, this.#merged, below) : { name, candidate: other }
  }

  /** The value that is being filled in. */
  get #inner(): OpenValue {
    return this.#open.at(-1)!
  }

  /** True for a name of the setting whose value is being filled in. */
  #isItself(name: string): boolean {
    const from = this.#inner.name
    return name === from || (this.#declared(name) !== undefined && this.#declared(name) === this.#declared(from))
  }

  /** True where the text that is being filled in belongs to a secret, so that nothing of it may be told. */
  #isConfidential(): boolean {
    return this.#open.some((each) => this.#declared(each.name)?.secret === true)
  }

  #demand(to: string, word: Template): Expanded {
    const { name } = this.#inner
    if (this.#isConfidential()) return this.#refuse('reference-in-secret', { name })
    // Only a fixed text is repeated; a reference in it could lead to a secret.
    const why = word.length === 1 && typeof word[0] === 'string' ? word[0].slice(0, 200) : 'it is required here'
    return this.#refuse('reference-demanded', { name, to, why })
  }

  #refuse<Code extends LoadingCode>(code: Code, details: ProblemDetails<Code>): Expanded {
    const { name, candidate } = this.#inner
    const { file, line, column } = candidate.origin
    const end = findRangeEnd(candidate)
    const setting = this.#declared(name)?.path ?? null
    this.problems.push(
      problem(code, details, { file, layer: candidate.layer.title, line, column, ...end, name, setting }),
    )
    return toExpanded(undefined)
  }

  #findCircle(outer: number): string {
    const steps = this.#open
      .slice(outer)
      .map((each) => `${each.name} (${describeOriginLabel(each.candidate.origin, each.candidate.layer.title)})`)
    return [...steps, this.#open[outer]!.name].join(' → ')
  }
}
