/** A text with some of it replaced: from one offset up to another, by what. Offsets count UTF-16 code units from 0. */
export interface TextEdit {
  readonly from: number
  readonly to: number
  readonly by: string
}

/**
 * Applies edits to a text. All offsets are those of the text as it was; the edits do not overlap.
 *
 * @example
 * ```ts
 * applyEdits('listen(4100)', [{ from: 7, to: 11, by: 'port' }]) // 'listen(port)'
 * ```
 */
export function applyEdits(text: string, edits: readonly TextEdit[]): string {
  let changed = ''
  let at = 0
  for (const { from, to, by } of [...edits].sort((a, b) => a.from - b.from)) {
    changed += text.slice(at, from) + by
    at = to
  }
  return changed + text.slice(at)
}
