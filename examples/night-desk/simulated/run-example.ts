import { type ChildProcess, spawn } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createBuilder, type InlineConfig } from 'vite'
import { issueKeys } from './issue-keys.ts'

const EXAMPLE = join(import.meta.dirname, '..')

/** A server that listens. */
export interface Desk {
  readonly url: string
  readonly stop: () => Promise<void>
}

/** A copy of the example in a temporary directory, with keys of its own. */
export interface RunningExample {
  readonly root: string
  /** Builds the page for a stage. */
  readonly buildPage: (stage: string, config?: InlineConfig) => Promise<void>
  /** Builds the server, once for all stages. */
  readonly buildServer: () => Promise<void>
  /** Serves what was built last, in a stage. */
  readonly serve: (stage: string, environment?: Record<string, string>) => Promise<Desk>
  readonly end: () => void
}

/** Copies the example and makes up its keys. */
export function runExample(): RunningExample {
  const root = mkdtempSync(join(tmpdir(), 'night-desk-'))
  cpSync(EXAMPLE, root, {
    recursive: true,
    filter: (path) => !/node_modules|dist|\.local$/.test(path.slice(EXAMPLE.length)),
  })
  symlinkSync(join(EXAMPLE, '../../node_modules'), join(root, 'node_modules'))
  issueKeys(root)
  const build = async (config: InlineConfig) => {
    const builder = await createBuilder({ root, logLevel: 'warn', ...config }, null)
    await builder.buildApp()
  }
  return {
    root,
    buildPage: (mode, config = {}) => build({ mode, ...config }),
    buildServer: () => build({ build: { ssr: 'src/server/main.ts', outDir: 'dist/server' } }),
    serve: (stage, environment = {}) => startDesk(root, { MAPPA_STAGE: stage, ...environment }),
    end: () => rmSync(root, { recursive: true, force: true }),
  }
}

async function startDesk(root: string, environment: Record<string, string>): Promise<Desk> {
  const { PATH } = process.env
  const child = spawn(process.execPath, ['dist/server/main.js'], { cwd: root, env: { PATH, ...environment } })
  const ended = new Promise<void>((resolve) => child.on('close', () => resolve()))
  const url = await address(child)
  return {
    url,
    async stop() {
      child.kill()
      await ended
    },
  }
}

/** The address that a server prints when it listens. */
function address(child: ChildProcess): Promise<string> {
  let printed = ''
  return new Promise((resolve, reject) => {
    const take = (text: Buffer) => {
      printed += text
      const url = /listens on (\S+)/.exec(printed)?.[1]
      if (url !== undefined) resolve(url)
    }
    child.stdout?.on('data', take)
    child.stderr?.on('data', take)
    child.on('close', () => reject(new Error(`The night desk did not start:\n${printed}`)))
  })
}
