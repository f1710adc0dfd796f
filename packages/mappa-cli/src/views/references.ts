import { describeOriginLabel } from '@mappa/core/layers/layer'
import { mergeLayers } from '@mappa/core/layers/merge'
import type { Resolution } from '@mappa/core/resolve/resolve'
import { displayValue } from '@mappa/core/secret/display'
import type { Template } from '@mappa/core/template/template'

/** A name that a value refers to. */
export interface ReferenceView {
  readonly name: string
  /** The path of the setting under that name; `null` where there is none. */
  readonly setting: string | null
  /** Where its value comes from; `null` where no layer sets it. */
  readonly place: string | null
  readonly file: string | null
  readonly line: number | null
  /** Its value, masked if it is a secret; `null` where there is none. */
  readonly shown: string | null
}

/** A name that a value refers to, by itself or by another that it refers to. */
export interface ReferenceInDepth extends ReferenceView {
  /** 0 for what the value itself refers to. */
  readonly depth: number
}

/** What a value refers to in one stage, with what that refers to in turn, each name once. */
export function listAllReferences(value: string | Template, resolution: Resolution): readonly ReferenceInDepth[] {
  const merged = mergeLayers(resolution.layers)
  const seen = new Set<string>()
  const list = (from: string | Template, depth: number): ReferenceInDepth[] =>
    listReferences(from, resolution).flatMap((each) => {
      if (seen.has(each.name)) return []
      seen.add(each.name)
      const inner = merged.winner(each.name)?.value ?? ''
      return [{ ...each, depth }, ...list(inner, depth + 1)]
    })
  return list(value, 0)
}

/** The names that a value refers to, each once, in the order in which it does. */
export function findNames(value: string | Template): readonly string[] {
  if (typeof value === 'string') return []
  const names = value.flatMap((piece) => (typeof piece === 'string' ? [] : [piece.name, ...findNames(piece.word)]))
  return [...new Set(names)]
}

/** What a value refers to, in one stage. */
export function listReferences(
  value: string | Template,
  { layers, settings, getText: textOf }: Resolution,
): ReferenceView[] {
  const merged = mergeLayers(layers)
  return findNames(value).map((name) => {
    const setting = settings.find(({ declaration }) => declaration.name === name)?.declaration.path ?? null
    const found = merged.winner(name)
    if (found === undefined) return { name, setting, place: null, file: null, line: null, shown: null }
    const { text, masked } = textOf(name, found)
    const { file, line } = found.origin
    return {
      name,
      setting,
      place: describeOriginLabel(found.origin, found.layer.title),
      file,
      line,
      // What no definition describes may be a secret.
      shown: text === undefined ? null : displayValue(text, { secret: masked || setting === null }),
    }
  })
}
