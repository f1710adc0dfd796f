import assert from 'node:assert/strict'
import { spawn } from 'node:child_process'
import { chmodSync, existsSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { needs } from '@mappa/tests/support/programs'
import { COMMAND, DEFINITION, makeProject } from '@mappa/tests/support/project'

const dome = (context: TestContext) =>
  makeProject(context, {
    'settings.definition.ts': DEFINITION,
    // What is completed is the command of the project; every other call is only noted.
    'bin/mappa': `#!/bin/sh\nif [ "$1" = completion ]; then exec "${process.execPath}" "${COMMAND}" "$@"; fi\necho "$@" >> called.txt\n`,
    'night.txt': '',
  })

describe('mappa completion', () => {
  const words: Readonly<Record<string, readonly [typed: readonly string[], expected: readonly string[]]>> = {
    'a command': [['co'], ['compare', 'completion']],
    'a command to explain': [['help', 'ch'], ['check']],
    'an option': [
      ['check', '--st'],
      ['--stage', '--store', '--store-file'],
    ],
    'a stage of an option': [['check', '--stage', 'p'], ['production']],
    'a stage of an argument': [
      ['view', 'staging', ''],
      ['development', 'staging', 'production'],
    ],
    'a setting': [
      ['show', 'DOME_'],
      ['DOME_URL', 'DOME_KEY', 'DOME_MOTORS'],
    ],
    'a setting behind an option': [['set', '--stage', 'staging', 'SERVER'], ['SERVER_PORT']],
    'a format': [['guard', '--format', 's'], ['sarif']],
    'a command below a command': [
      ['store', ''],
      ['compare', 'send', 'fetch', 'history'],
    ],
    'an option of such a command': [['store', 'send', '--y'], ['--yes']],
    'a shell': [
      ['completion', ''],
      ['bash', 'zsh', 'fish'],
    ],
    'nothing where files are meant': [['check', '--root', ''], []],
    'nothing for the words of another program': [['run', '--', 'node', ''], []],
    'nothing for a command that there is not': [['look', ''], []],
  }
  for (const [what, [typed, expected]] of Object.entries(words))
    it(`completes ${what}`, (context) => {
      const { stdout } = dome(context).mappa(['completion', 'words', '--', ...typed])
      const lines = stdout.split('\n').filter((line) => line !== '')
      assert.deepEqual(
        lines.map((line) => line.split('\t')[0]),
        expected,
      )
    })

  it('completes commands and options also where the definition is wrong', (context) => {
    const project = dome(context)
    project.write('settings.definition.ts', 'export default 3\n')
    assert.match(project.mappa(['completion', 'words', '--', 'che']).stdout, /^check\t/)
    assert.equal(project.mappa(['completion', 'words', '--', 'check', '--stage', 'p']).stdout, '')
  })

  it('completes the packages of a repository', (context) => {
    const project = dome(context)
    project.write('package.json', '{ "name": "fernhollow", "workspaces": ["services/*"] }')
    project.write('services/rain/package.json', '{ "name": "rain-watch" }')
    assert.match(project.mappa(['completion', 'words', '--', 'check', '--pa']).stdout, /^--package\t/)
    const { stdout } = project.mappa(['completion', 'words', '--', 'check', '--package', 'r'])
    assert.equal(stdout, 'rain-watch\tservices/rain\n')
  })

  it('names the shells that it knows', (context) => {
    const { status, stderr } = dome(context).mappa(['completion', 'csh'])
    assert.equal(status, 2)
    assert.match(stderr, /Allowed choices are bash, zsh, fish/)
  })

  const shells: Readonly<Record<string, readonly [start: string, setUp: string]>> = {
    bash: ['bash --norc --noprofile -i', 'source <(mappa completion bash)'],
    zsh: ['zsh -f -i', 'autoload -U compinit; compinit -D -u; source <(mappa completion zsh)'],
    fish: ['fish --no-config -i', 'mappa completion fish | source'],
  }
  for (const [shell, [start, setUp]] of Object.entries(shells))
    it(`works in ${shell}`, shell === 'bash' ? {} : needs(shell as 'zsh' | 'fish'), async (context) => {
      const project = dome(context)
      chmodSync(join(project.root, 'bin/mappa'), 0o755)
      const { type, shows, hasFile } = shellAt(context, project.root, start)
      // A shell that is still starting loses what is typed.
      await hasFile('ready', () => type('touch ready\r'))
      type(`${setUp}; touch set-up\r`)
      await hasFile('set-up')
      for (const [typed, rest, called] of [
        ['mappa check --stage prod', 'uction', 'check --stage production'],
        ['mappa show SERVER_', 'PORT', 'show SERVER_PORT'],
        ['mappa fill nigh', 't.txt', 'fill night.txt'],
      ] as const) {
        type(`${typed}\t`)
        await shows(rest)
        type('\r')
        await hasFile('called.txt')
        assert.equal(readFileSync(join(project.root, 'called.txt'), 'utf8').trim(), called)
        rmSync(join(project.root, 'called.txt'))
      }
    })
})

/** A shell at a terminal. */
function shellAt(context: TestContext, cwd: string, start: string) {
  const environment = { PATH: `${join(cwd, 'bin')}:${process.env.PATH}`, TERM: 'xterm', HOME: cwd, LANG: 'C.UTF-8' }
  const child = spawn('script', ['-qec', start, '/dev/null'], { cwd, env: environment })
  context.after(() => child.kill('SIGKILL'))
  let shown = ''
  child.stdout.on('data', (text) => {
    shown += text
  })
  const until = async (isDone: () => boolean, again?: () => void): Promise<void> => {
    for (let round = 0; round < 600; round++) {
      if (isDone()) return
      if (round % 20 === 0) again?.()
      await new Promise((resolve) => setTimeout(resolve, 50))
    }
    throw new Error(`The shell did not answer; it showed: ${shown}`)
  }
  return {
    type(text: string): void {
      shown = ''
      child.stdin.write(text)
    },
    shows: (text: string) => until(() => shown.includes(text)),
    hasFile: (file: string, again?: () => void) => until(() => existsSync(join(cwd, file)), again),
  }
}
