import { randomInt } from 'node:crypto'
import type { FilledPlaceholder, FilledText } from './filled.ts'

/** A draft of an output, in which a number stands for each value: that can stand wherever a value can, and breaks nothing. */
export interface Draft {
  readonly text: string
  /** The values, by their numbers. */
  readonly byMarker: ReadonlyMap<string, FilledPlaceholder>
  /** Finds the numbers in a text. */
  readonly pattern: RegExp
  /** Where a place in the draft stands in the template. */
  readonly toTemplateOffset: (offset: number) => number
}

const DIGITS = 6

/** Draws the beginning of all numbers, one that a template does not have. */
export function chooseMarkerPrefix(text: string): string {
  for (;;) {
    const prefix = String(randomInt(10_000_000, 99_999_999))
    if (!text.includes(prefix)) return prefix
  }
}

/** The number of a value. */
export function toMarker(prefix: string, index: number): string {
  return prefix + String(index).padStart(DIGITS, '0')
}

/** Puts the number of each value in its place. */
export function toDraft({ pieces, prefix }: FilledText): Draft {
  const byMarker = new Map<string, FilledPlaceholder>()
  /** Where each piece begins, in the draft and in the template. */
  const starts: (readonly [draft: number, template: number])[] = []
  let text = ''
  let inTemplate = 0
  for (const piece of pieces) {
    starts.push([text.length, inTemplate])
    if (typeof piece === 'string') {
      text += piece
      inTemplate += piece.length
    } else {
      byMarker.set(piece.marker, piece)
      text += piece.marker
      inTemplate = piece.placeholder.end
    }
  }
  return {
    text,
    byMarker,
    pattern: new RegExp(`${prefix}\\d{${DIGITS}}`, 'g'),
    toTemplateOffset(offset) {
      const [draft, template] = starts.findLast(([start]) => start <= offset) ?? [0, 0]
      return template + offset - draft
    },
  }
}
