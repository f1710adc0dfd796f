import type { Paint } from '../../core/problems/report.ts'
import { createColors } from '../packages.ts'

/** A stream that text goes to, and what it can show. */
export interface Screen {
  readonly paint: Paint
  /** Width in characters; `undefined` where nobody watches and nothing is folded. */
  readonly width: number | undefined
  readonly print: (text: string) => void
}

/** Standard output, for results. */
export const out: Screen = screen(process.stdout)

/** Standard error, for messages. */
export const err: Screen = screen(process.stderr)

function screen(stream: NodeJS.WriteStream): Screen {
  // https://no-color.org: any value but the empty one switches colour off. FORCE_COLOR is the custom of Node.
  const { NO_COLOR, FORCE_COLOR, TERM } = process.env
  const forced = FORCE_COLOR !== undefined && FORCE_COLOR !== '0'
  const colour = !NO_COLOR && (forced || (stream.isTTY === true && TERM !== 'dumb'))
  const { bold, dim, red, yellow } = createColors(colour)
  return {
    paint: { error: red, notice: yellow, strong: bold, faint: dim },
    width: stream.isTTY === true ? stream.columns : undefined,
    print(text) {
      stream.write(`${text}\n`)
    },
  }
}
