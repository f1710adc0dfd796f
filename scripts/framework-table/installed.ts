import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { dirname, join } from 'node:path'
import { root as repository } from '../steps.mjs'
import type { Target } from './targets.ts'

const EXAMPLES = join(repository, 'tests/compat/frameworks')

/** What a command has said, and its exit code; `null` where it was stopped. */
export interface Outcome {
  readonly status: number | null
  readonly said: string
}

/** A server that runs. */
export interface Running {
  /** What it answers for a path; `null` where it ended before it answered anything. */
  readonly ask: (path: string) => Promise<string | null>
  /** Ends it, or waits until it has ended. */
  readonly end: () => Promise<Outcome>
}

export const STAGES = ['development', 'staging', 'production'] as const
export const keyOf = (stage: string) => `slip-of-${stage}-93ae77c0d1f2`
export const mapOf = (stage: string) => `https://maps-${stage}.fernhollow.example/tonight`

/** The example of a framework, as npm installs it. */
export class Installed {
  readonly target: Target
  readonly directory: string
  readonly #path: string

  /**
   * @param packages the files that `npm pack` has made
   * @param nodes the directory with other versions of Node
   */
  constructor(target: Target, home: string, packages: readonly string[], nodes: string) {
    this.target = target
    this.directory = join(home, target.example)
    const isOld = Number(process.versions.node.split('.')[0]) < Number(target.node ?? 20)
    this.#path = isOld
      ? `${join(nodes, `node_modules/node-${target.node}/bin`)}:${process.env.PATH}`
      : process.env.PATH!
    this.reset()
    const { status, said } = this.run('npm', ['install', '--no-audit', '--no-fund', ...packages])
    if (status !== 0) throw new Error(`npm install fails in the example of ${target.name}:\n${said}`)
  }

  /** Puts everything back as the example has it, but for what is installed. */
  reset(): void {
    mkdirSync(this.directory, { recursive: true })
    const kept = ['node_modules', 'package.json', 'package-lock.json']
    for (const name of readdirSync(this.directory))
      if (!kept.includes(name)) rmSync(join(this.directory, name), { recursive: true })
    cpSync(join(EXAMPLES, this.target.example), this.directory, {
      recursive: true,
      filter: (file) => !file.endsWith('package.json') || !existsSync(join(this.directory, 'package.json')),
    })
    this.write(this.target.definition, readFileSync(join(EXAMPLES, 'common/settings.definition.ts'), 'utf8'))
    for (const stage of STAGES) {
      this.write(
        `.env.${stage}`,
        `DOME_URL=https://dome-${stage}.fernhollow.example\nVISITOR_MAP=${mapOf(stage)}\nVISITOR_NOTICE="Rehearsal of ${stage}"\n`,
      )
      this.write(`.env.${stage}.local`, `DESK_KEY=${keyOf(stage)}\n`)
    }
  }

  write(file: string, text: string): void {
    mkdirSync(dirname(join(this.directory, file)), { recursive: true })
    // Only their owner may read files with keys.
    writeFileSync(join(this.directory, file), text, { mode: file.endsWith('.local') ? 0o600 : 0o644 })
  }

  remove(file: string): void {
    rmSync(join(this.directory, file))
  }

  /** Builds it for a stage, by its usual command; nothing where there is none. */
  build(stage: string): Outcome {
    const { scripts } = JSON.parse(readFileSync(join(this.directory, 'package.json'), 'utf8')) as {
      scripts: Record<string, string>
    }
    if (scripts.build === undefined) return { status: 0, said: '' }
    return this.run('npm', ['run', '--silent', 'build'], { MAPPA_STAGE: stage })
  }

  run(program: string, words: readonly string[], environment: Record<string, string> = {}): Outcome {
    const options = {
      cwd: this.directory,
      env: this.#environment(environment),
      encoding: 'utf8' as const,
      timeout: 300_000,
    }
    const { status, stdout, stderr, error } = spawnSync(program, words, options)
    return { status, said: `${stdout}${stderr}${error ?? ''}` }
  }

  /** Starts it by its usual command. */
  async start(environment: Record<string, string> = {}): Promise<Running> {
    const port = await findFreePort()
    const env = this.#environment({ PORT: String(port), HOST: '127.0.0.1', ...environment })
    // A group of its own: what a script starts must end with it.
    const child = spawn('npm', ['run', '--silent', 'start'], { cwd: this.directory, env, detached: true })
    let said = ''
    child.stdout.on('data', (text) => (said += text))
    child.stderr.on('data', (text) => (said += text))
    const ended = new Promise<number | null>((done) => child.on('close', done))
    return {
      ask: (path) => askUntil(`http://127.0.0.1:${port}${path}`, child),
      async end() {
        if (child.exitCode === null) killGroup(child)
        const status = await ended
        return { status, said }
      },
    }
  }

  #environment(more: Record<string, string>): Record<string, string> {
    const { HOME = '/', NODE_EXTRA_CA_CERTS } = process.env
    return {
      PATH: this.#path,
      HOME,
      ...(NODE_EXTRA_CA_CERTS === undefined ? {} : { NODE_EXTRA_CA_CERTS }),
      NEXT_TELEMETRY_DISABLED: '1',
      ASTRO_TELEMETRY_DISABLED: '1',
      ...more,
    }
  }
}

function killGroup({ pid }: ChildProcess): void {
  try {
    process.kill(-pid!, 'SIGTERM')
  } catch {}
}

/** Asks until there is an answer, or the server has ended. */
async function askUntil(address: string, child: ChildProcess): Promise<string | null> {
  for (let tries = 0; tries < 300; tries++) {
    try {
      return await (await fetch(address)).text()
    } catch {}
    if (child.exitCode !== null) return null
    await new Promise((done) => setTimeout(done, 100))
  }
  throw new Error(`No answer from ${address}`)
}

async function findFreePort(): Promise<number> {
  const server = createServer()
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const { port } = server.address() as { port: number }
  await new Promise((done) => server.close(done))
  return port
}
