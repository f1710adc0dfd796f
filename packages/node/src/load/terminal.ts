import type { Paint } from '@mappa/core/problems/report'
import { util } from '../fs/builtin.ts'

/** What a stream can show: colours, and how wide a line is. */
export interface TerminalStyle {
  readonly paint: Paint & { readonly added: (text: string) => string }
  /** Width in characters; `undefined` where nobody watches and nothing is folded. */
  readonly width: number | undefined
}

/**
 * Finds out what a stream can show. Colour is for terminals only; the variable `NO_COLOR` (https://no-color.org)
 * switches it off and `FORCE_COLOR`, as for Node itself, switches it on.
 *
 * @param stream standard output or standard error
 */
export function terminalStyle(stream: NodeJS.WriteStream): TerminalStyle {
  const { NO_COLOR, FORCE_COLOR, TERM } = process.env
  const forced = FORCE_COLOR !== undefined && FORCE_COLOR !== '' && FORCE_COLOR !== '0'
  const colour = !NO_COLOR && (forced || (stream.isTTY === true && TERM !== 'dumb'))
  const style = (format: 'red' | 'yellow' | 'green' | 'bold' | 'dim') => (text: string) =>
    colour ? util.styleText(format, text) : text
  return {
    paint: {
      error: style('red'),
      notice: style('yellow'),
      strong: style('bold'),
      faint: style('dim'),
      added: style('green'),
    },
    width: stream.isTTY === true ? stream.columns : undefined,
  }
}
