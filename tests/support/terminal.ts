import { spawn } from 'node:child_process'
import { COMMAND } from './project.ts'

/**
 * Runs the command at a terminal, typing an answer when its question is there.
 *
 * @param question a text that is printed before the answer is typed
 * @returns everything that the terminal showed
 */
export function atTerminal(words: readonly string[], cwd: string, question: string, answer: string): Promise<string> {
  const command = [process.execPath, COMMAND, ...words].join(' ')
  const { PATH } = process.env
  const child = spawn('script', ['-qec', command, '/dev/null'], { cwd, env: { PATH, TERM: 'xterm' } })
  let shown = ''
  let asked = false
  child.stdout.on('data', (text) => {
    shown += text
    if (asked || !shown.includes(question)) return
    asked = true
    child.stdin.write(`${answer}\r`)
  })
  return new Promise((resolve, reject) => {
    child.on('error', reject)
    child.on('close', () => resolve(shown))
  })
}
