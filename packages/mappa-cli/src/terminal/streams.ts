import { printable } from '../../../mappa/src/core/text/escape-invisible.ts'
import { type TerminalStyle, terminalStyle } from '../../../mappa/src/node/load/terminal.ts'

/** A stream that text goes to, and what it can show. */
export interface Screen extends TerminalStyle {
  /** Prints lines for a person, without anything that could change what a terminal shows. */
  readonly print: (text: string) => void
  /** Prints what a program is to read, as it is. */
  readonly raw: (text: string) => void
}

/** Standard output, for results. */
export const out: Screen = screen(process.stdout)

/** Standard error, for messages. */
export const err: Screen = screen(process.stderr)

function screen(stream: NodeJS.WriteStream): Screen {
  // A reader that has gone, as `| head` does, must not end a command in the middle of its work.
  stream.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error
  })
  return {
    ...terminalStyle(stream),
    raw(text) {
      stream.write(text)
    },
    print(text) {
      stream.write(`${printable(text)}\n`)
    },
  }
}
