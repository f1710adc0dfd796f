import { execFile, spawnSync } from 'node:child_process'
import { chmodSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import type { TestContext } from 'node:test'
import { copyCommand } from '../../scripts/command-apart.mjs'
import { callWarm, type Outcome } from './warm-command.ts'

export type { Outcome } from './warm-command.ts'

export const REPOSITORY = join(import.meta.dirname, '../..')
export const EXAMPLE = join(REPOSITORY, 'examples/dome-api')
/** The command; in npm test a copy that lies apart, so that it finds nothing but what is installed with it. */
export const COMMAND = process.env.MAPPA_TESTS_COMMAND ?? join(REPOSITORY, 'packages/mappa-cli/dist/main.js')

/** A small definition of the observatory, as a module. */
export const DEFINITION = `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  server: { port: setting.port('Port the dome service listens on', { default: 4100 }) },
  dome: {
    url: setting.url('Address of the dome controller'),
    key: setting.string('Key the dome controller asks for', { secret: true, minLength: 12 }),
    motors: setting.boolean('Whether the motors may really move', { default: false }),
  },
})
`

/** A directory with files, taken away when the test ends. */
export interface Project {
  readonly root: string
  readonly write: (file: string, content: string | Uint8Array) => void
  /** Runs the command in the directory. */
  readonly mappa: (words: readonly string[], environment?: Record<string, string>, input?: string) => Outcome
  /** Runs git in the directory. */
  readonly git: (...words: string[]) => string
}

/** Makes a project of the given files, with both packages installed in it. */
export function makeProject(context: Pick<TestContext, 'after'>, files: Record<string, string | Uint8Array>): Project {
  const root = mkdtempSync(join(tmpdir(), 'mappa-test-'))
  context.after(() => rmSync(root, { recursive: true, force: true }))
  const write: Project['write'] = (file, content) => {
    mkdirSync(dirname(join(root, file)), { recursive: true })
    writeFileSync(join(root, file), content)
  }
  mkdirSync(join(root, 'node_modules'))
  symlinkSync(join(REPOSITORY, 'packages/mappa-settings'), join(root, 'node_modules/mappa-settings'))
  symlinkSync(dirname(dirname(COMMAND)), join(root, 'node_modules/mappa-cli'))
  for (const [file, content] of Object.entries({ 'package.json': '{ "type": "module" }', ...files })) {
    write(file, content)
  }
  return {
    root,
    write,
    mappa: (words, environment, input) => runCommand(words, root, environment, input),
    git(...words) {
      const who = ['-c', 'user.name=Fern', '-c', 'user.email=fern@fernhollow.example', '-c', 'init.defaultBranch=main']
      const { status, stdout, stderr } = run('git', [...who, ...words], root, { HOME: root })
      if (status !== 0) throw new Error(stderr)
      return stdout
    },
  }
}

/** Runs the command in a directory, in a process that has it loaded already where that makes no difference. */
export function runCommand(
  words: readonly string[],
  root: string,
  environment: Readonly<Record<string, string>> = {},
  input = '',
): Outcome {
  // What mappa run starts has the streams of the process itself; Node and the colors of a terminal look once at their variables.
  const isOwn = words[0] === 'run' || Object.keys(environment).some((name) => /^NODE_|_COLOR$/.test(name))
  const isPlain = !isOwn && !START_COLD
  return (
    (isPlain ? callWarm(COMMAND, words, root, environment, input) : null) ??
    run(process.execPath, [COMMAND, ...words], root, environment, undefined, input)
  )
}

/** Set to start a process for each call of the command, as users do. */
const START_COLD = Boolean(process.env.MAPPA_TESTS_COLD)

/** Runs a program with nothing in its environment that a test did not put there. */
export function run(
  program: string,
  words: readonly string[],
  cwd: string,
  environment: Record<string, string> = {},
  user?: number,
  input = '',
): Outcome {
  const { PATH } = process.env
  const options = {
    cwd,
    env: { PATH, ...environment },
    encoding: 'utf8' as const,
    uid: user,
    input,
    maxBuffer: 1 << 26,
  }
  const { status, stdout, stderr } = spawnSync(program, words, options)
  return { status, stdout, stderr }
}

/** The same for a program that talks to this process while it runs. */
export function runAsync(
  program: string,
  words: readonly string[],
  cwd: string,
  environment: Record<string, string> = {},
): Promise<Outcome> {
  const { PATH } = process.env
  return new Promise((resolve) => {
    const child = execFile(program, words, { cwd, env: { PATH, ...environment } }, (_error, stdout, stderr) =>
      resolve({ status: child.exitCode, stdout, stderr }),
    )
  })
}

/** Lets any user of the machine into a directory, so that a test can run as one without rights. */
export function openToAll(root: string): void {
  chmodSync(root, 0o755)
}

/**
 * The command where every user can run it, with what it needs: a clone may lie where others can't enter, as in the home of root.
 */
export function commandForAll(context: TestContext): string {
  if (process.env.MAPPA_TESTS_COMMAND !== undefined) return COMMAND
  const copy = mkdtempSync(join(tmpdir(), 'mappa-command-'))
  context.after(() => rmSync(copy, { recursive: true, force: true }))
  return copyCommand(copy)
}
