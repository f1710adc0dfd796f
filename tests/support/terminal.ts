import { spawn } from 'node:child_process'
import { COMMAND } from './project.ts'

/**
 * Runs the command at a terminal, typing each answer when its question is there.
 *
 * @param questions texts that are printed before each answer is typed, in order
 * @returns everything that the terminal showed
 * @throws if the command has not ended after a minute, as when a question never comes
 */
export function atTerminal(
  words: readonly string[],
  cwd: string,
  questions: readonly string[],
  answers: readonly string[],
): Promise<string> {
  const command = [process.execPath, COMMAND, ...words].join(' ')
  const { PATH } = process.env
  const options = { cwd, env: { PATH, TERM: 'xterm' }, timeout: 60_000 }
  const child = spawn('script', ['-qec', command, '/dev/null'], options)
  let shown = ''
  let asked = 0
  let from = 0
  child.stdout.on('data', (text) => {
    shown += text
    const question = questions[asked]
    if (question === undefined || !shown.slice(from).includes(question)) return
    from = shown.length
    child.stdin.write(`${answers[asked++]}\r`)
  })
  return new Promise((resolve, reject) => {
    child.on('error', reject)
    child.on('close', (_code, signal) =>
      signal === null ? resolve(shown) : reject(new Error(`The command did not end; it showed: ${shown}`)),
    )
  })
}
