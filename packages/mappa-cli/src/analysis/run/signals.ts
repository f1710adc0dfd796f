import { fs } from '@mappa/node/fs/builtin'

/** Signals that are meant for the command, not for what started it. */
const PASSED_ON: readonly NodeJS.Signals[] = ['SIGTERM', 'SIGHUP', 'SIGUSR1', 'SIGUSR2', 'SIGINT', 'SIGQUIT']
/** Those that a terminal sends to everybody in the foreground, so that the command has them already. */
const OF_TERMINALS: ReadonlySet<NodeJS.Signals> = new Set(['SIGINT', 'SIGQUIT'])

/**
 * Takes the signals that this process gets, so that they don't end it before the command ends.
 *
 * @param pass is called with each signal that the command does not get by itself
 * @param seen is called with every signal
 * @returns what gives the signals back
 */
export function passSignals(
  pass: (signal: NodeJS.Signals) => void,
  seen: (signal: NodeJS.Signals) => void = () => {},
): () => void {
  const listen = (signal: NodeJS.Signals) => {
    seen(signal)
    if (!(OF_TERMINALS.has(signal) && isInForeground())) pass(signal)
  }
  for (const each of PASSED_ON) process.on(each, listen)
  return () => {
    for (const each of PASSED_ON) process.removeListener(each, listen)
  }
}

/** True if this process belongs to the process group in the foreground of its terminal. */
function isInForeground(): boolean {
  try {
    // Behind the name in parentheses: state, parent, process group, session, terminal, and the group in its foreground.
    const stat = fs.readFileSync('/proc/self/stat', 'latin1')
    const [, , group, , , foreground] = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
    return group === foreground
  } catch {
    return process.stdin.isTTY === true || process.stdout.isTTY === true || process.stderr.isTTY === true
  }
}
