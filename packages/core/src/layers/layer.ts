import type { Problem } from '../problems/problem.ts'
import type { CodeFrame } from '../secret/display.ts'
import type { Template } from '../template/template.ts'
import type { Position } from '../text/position.ts'
import type { LayerKind } from './order.ts'

/** Where a value came from. */
export interface Origin {
  /** The layer: `defaults`, the name of a layer file such as `.env.production`, or `environment`. */
  readonly layer: string
  /** Path of the file, where it is one. */
  readonly file: string | null
  /** Line of the entry, from 1. */
  readonly line: number | null
  /** Column of the value, from 1. */
  readonly column: number | null
  /** What a person calls the entry, where it is in no file: `etcd fernhollow/dome-api/production/DOME_KEY @42`. */
  readonly entry?: string
}

/** What one layer says about one name. */
export interface LayerValue {
  readonly origin: Origin
  /** Column of the name, from 1, where it stands in a file. */
  readonly nameColumn: number | null
  /** The text, or the pieces of text and references it is made of. */
  readonly value: string | Template
  /** True where the entry has an error of its own, which is reported already. */
  readonly broken: boolean
  /** The value before it was written as text, where it was given as one; `undefined` for what was read. */
  readonly typed?: unknown
  /** The day on which the value was set, where its file says so. */
  readonly setOn: () => string | null
  /** Where the value ends in its file; `null` for one that is in none. */
  readonly end?: () => Position | null
  /** The entry as it stands in its file, safe to show where the setting is no secret. */
  readonly codeFrame: () => CodeFrame | null
}

/** Makes what a layer says about a name, with its value out of reach of loggers: whether it is a secret is not known here. */
export function layerValue(
  origin: Origin,
  value: string | Template,
  more: Partial<Omit<LayerValue, 'origin' | 'value'>> = {},
): LayerValue {
  return new HiddenValue(origin, value, more)
}

const nothing = () => null

/** What a layer says, with the value where loggers can't see it. */
export class HiddenValue implements LayerValue {
  readonly origin: Origin
  readonly nameColumn: number | null
  readonly broken: boolean
  readonly setOn: () => string | null
  readonly end: () => Position | null
  readonly codeFrame: () => CodeFrame | null
  readonly #value: string | Template
  readonly #typed: unknown

  constructor(origin: Origin, value: string | Template, more: Partial<Omit<LayerValue, 'origin' | 'value'>>) {
    this.origin = origin
    this.#value = value
    this.#typed = more.typed
    this.nameColumn = more.nameColumn ?? null
    this.broken = more.broken ?? false
    this.setOn = more.setOn ?? nothing
    this.end = more.end ?? nothing
    this.codeFrame = more.codeFrame ?? nothing
  }

  get value(): string | Template {
    return this.#value
  }

  get typed(): unknown {
    return this.#typed
  }
}

/** One source of values. */
export interface Layer {
  /** As in {@link Origin.layer}. */
  readonly id: string
  readonly kind: LayerKind
  /** What a person calls it. */
  readonly title: string
  readonly state: 'read' | 'absent' | 'unreadable'
  /** What was wrong while the layer was read. */
  readonly problems: readonly Problem[]
  readonly get: (name: string) => LayerValue | undefined
  /** What earlier lines of a file say about a name, the last of them first; no program gets it. */
  readonly listRepeated?: (name: string) => readonly LayerValue[]
  /** The names in a layer that belongs to the project alone; those of others are not listed. */
  readonly names: () => readonly string[]
  /** The names in a layer that programs share, such as the process environment; most of them belong to others. */
  readonly sharedNames?: () => readonly string[]
}

/** Where a value ends, as part of a location. */
export function findRangeEnd({ end }: LayerValue): {
  readonly endLine: number | null
  readonly endColumn: number | null
} {
  const found = end?.() ?? null
  return { endLine: found?.line ?? null, endColumn: found?.column ?? null }
}

/** A person's name for an origin: `.env.production:3` or `the process environment`. */
export function describeOriginLabel(origin: Origin, title: string): string {
  if (origin.entry !== undefined) return origin.entry
  return origin.file === null ? title : `${origin.file}:${origin.line ?? 1}`
}
