import { formatReport, type Report } from '@mappa/core/problems/report'
import type { Events } from '../../analysis/run/restarts.ts'
import { err } from '../../terminal/streams.ts'

/** Prints notices to standard error: standard output belongs to the command. */
export function printNotices(report: Report): void {
  const { paint, width, print } = err
  print(formatReport(report, { paint, width }))
}

/** Says that a command was not started, below the reason. */
export function printNotStarted([command = '']: readonly string[]): void {
  err.print(`\n${err.paint.strong(`${command} was not started.`)}`)
}

/** Says on standard error what happens to a command that is started again and again. */
export function chooseEvents([command = '']: readonly string[]): Events {
  const say = (text: string) => err.print(err.paint.faint(`mappa: ${text}`))
  return {
    wrong(error) {
      printNotices(error.report)
      say(`${command} keeps the last good values`)
    },
    restarts(names) {
      say(`${names.length === 0 ? 'the definition' : names.join(', ')} changed, so ${command} is started again`)
    },
    ended(exitCode) {
      say(`${command} ended with ${exitCode}; it is started again when a layer or the definition changes`)
    },
    notWatched({ message }) {
      say(`${message} ${command} keeps the last values until then`)
    },
    killed() {
      say(`${command} did not end in time and was killed`)
    },
  }
}
