import { lookOf, type TerminalLook } from '../../node/terminal.ts'

/** A stream that text goes to, and what it can show. */
export interface Screen extends TerminalLook {
  readonly print: (text: string) => void
}

/** Standard output, for results. */
export const out: Screen = screen(process.stdout)

/** Standard error, for messages. */
export const err: Screen = screen(process.stderr)

function screen(stream: NodeJS.WriteStream): Screen {
  return {
    ...lookOf(stream),
    print(text) {
      stream.write(`${text}\n`)
    },
  }
}
