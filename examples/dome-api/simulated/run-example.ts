import { type ChildProcess, spawn } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inspectSettings } from 'mappa-settings/node'
import { build } from 'vite'
import definition from '../src/settings.definition.ts'
import { type Controller, startController } from './controller.ts'
import { issueKeys } from './issue-keys.ts'

const EXAMPLE = join(import.meta.dirname, '..')

/** How a server that was started came out. */
export interface Started {
  /** Its address; `null` where it refused to start. */
  readonly url: string | null
  /** What it printed so far. */
  readonly printed: () => string
  /** The code it ended with; known once it has ended. */
  readonly exitCode: () => number | null
  readonly stop: () => Promise<void>
}

/** A copy of the example in a temporary directory, with keys of its own and a running dome controller. */
export interface RunningExample {
  readonly root: string
  readonly controller: Controller
  /** Starts the built server in a stage, against the simulated controller. */
  readonly start: (stage: string, environment?: Record<string, string>) => Promise<Started>
  readonly end: () => Promise<void>
}

/** Copies and builds the example, hands out keys, and starts the dome controller that knows them. */
export async function runExample(): Promise<RunningExample> {
  const root = mkdtempSync(join(tmpdir(), 'dome-api-'))
  cpSync(EXAMPLE, root, {
    recursive: true,
    filter: (path) => !/node_modules|dist|\.local$/.test(path.slice(EXAMPLE.length)),
  })
  symlinkSync(join(EXAMPLE, '../../node_modules'), join(root, 'node_modules'))
  issueKeys(root)
  await build({ root, configFile: join(root, 'vite.config.ts'), logLevel: 'warn' })
  const controller = await startController(keysOf(root))
  return {
    root,
    controller,
    start: (stage, environment = {}) =>
      startServer(root, { MAPPA_STAGE: stage, DOME_URL: controller.url, ...environment }),
    async end() {
      await controller.stop()
      rmSync(root, { recursive: true, force: true })
    },
  }
}

function keysOf(root: string): string[] {
  return definition.stages.flatMap((stage) => {
    const { settings } = inspectSettings(definition, { stage, root, environment: {} })
    const key = settings.find(({ declaration }) => declaration.path === 'dome.key')?.value
    return typeof key === 'string' ? [key] : []
  })
}

/** Starts the server and waits until it listens or has ended. */
async function startServer(root: string, environment: Record<string, string>): Promise<Started> {
  const { PATH } = process.env
  const child = spawn(process.execPath, ['dist/server.js'], { cwd: root, env: { PATH, ...environment } })
  let printed = ''
  child.stdout.on('data', (text) => {
    printed += text
  })
  child.stderr.on('data', (text) => {
    printed += text
  })
  const ended = new Promise<void>((resolve) => child.on('close', () => resolve()))
  const { stage } = inspectSettings(definition, { root, environment })
  const port = inspectSettings(definition, { root, environment, stage }).values?.server.port
  const url = port === undefined ? null : `http://127.0.0.1:${port}`
  const listens = url !== null && (await answers(url, child))
  if (!listens) await ended
  return {
    url: listens ? url : null,
    printed: () => printed,
    exitCode: () => child.exitCode,
    async stop() {
      child.kill()
      await ended
    },
  }
}

async function answers(url: string, child: ChildProcess): Promise<boolean> {
  while (child.exitCode === null) {
    const answer = await fetch(`${url}/night`).catch(() => null)
    if (answer?.ok) return true
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  return false
}
