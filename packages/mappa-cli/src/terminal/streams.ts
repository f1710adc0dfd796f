import { toPrintable } from '@mappa/core/text/escape-invisible'
import { type TerminalStyle, terminalStyle } from '@mappa/node/load/terminal'

/** A stream that text goes to, and what it can show. */
export interface Screen extends TerminalStyle {
  /** Prints lines for a person, without anything that could change what a terminal shows. */
  readonly print: (text: string) => void
  /** Prints what a program is to read, as it is. */
  readonly raw: (text: string) => void
}

/** What was printed, and where. */
export interface Printed {
  readonly to: 'out' | 'err'
  readonly text: string
}

/** Takes what is printed, in place of the streams; `null` where they get it. */
let taken: Printed[] | null = null

/** Does some work, and gives back what it printed instead of printing it. */
export async function captured<Result>(
  work: () => Promise<Result>,
): Promise<{ result: Result; printed: readonly Printed[] }> {
  const before = taken
  const printed: Printed[] = []
  taken = printed
  try {
    return { result: await work(), printed }
  } finally {
    taken = before
  }
}

/** Standard output, for results. */
export const out: Screen = screen(process.stdout, 'out')

/** Standard error, for messages. */
export const err: Screen = screen(process.stderr, 'err')

function screen(stream: NodeJS.WriteStream, to: Printed['to']): Screen {
  // A reader that has gone, as `| head` does, must not end a command in the middle of its work.
  stream.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error
  })
  const write = (text: string): void => {
    if (taken === null) stream.write(text)
    else taken.push({ to, text })
  }
  return {
    ...terminalStyle(stream),
    raw: write,
    print(text) {
      write(`${toPrintable(text)}\n`)
    },
  }
}
