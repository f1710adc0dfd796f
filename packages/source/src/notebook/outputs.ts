import type { TextEdit } from '@mappa/core/text/edits'
import { findNodeAtLocation, parseTree } from 'jsonc-parser'

/** Where the outputs of the cells of a notebook stand, brackets included, from 0. */
export function listOutputRanges(text: string): readonly { readonly start: number; readonly end: number }[] {
  const root = parseTree(text)
  const cells = root === undefined ? undefined : findNodeAtLocation(root, ['cells'])
  return (cells?.children ?? []).flatMap((cell) => {
    const outputs = findNodeAtLocation(cell, ['outputs'])
    return outputs === undefined ? [] : [{ start: outputs.offset, end: outputs.offset + outputs.length }]
  })
}

/** Takes away the outputs of those cells that show one of some values. */
export function clearOutputs(text: string, values: readonly string[]): readonly TextEdit[] {
  return listOutputRanges(text).flatMap(({ start, end }) => {
    const shown = text.slice(start, end)
    const isShown = values.some((each) => shown.includes(each) || shown.includes(JSON.stringify(each).slice(1, -1)))
    return isShown ? [{ from: start, to: end, by: '[]' }] : []
  })
}
