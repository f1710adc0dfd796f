import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import type { ProtocolConnection } from 'vscode-languageserver-protocol'
import { type Measured, median } from './measure.ts'
import { largeObservatory } from './observatory.ts'

const { createProtocolConnection, StreamMessageReader, StreamMessageWriter } = createRequire(import.meta.url)(
  'vscode-languageserver-protocol/node',
) as typeof import('vscode-languageserver-protocol/node')

const COMMAND = join(import.meta.dirname, '../packages/mappa-cli/dist/main.js')
const FILE = '.env.production'

/** The language server: how soon it starts and answers, and what it holds. */
export interface EditorMeasured {
  readonly rows: readonly Measured[]
  /** Medians of answers, in milliseconds, with 300 settings in 5 stages and a file of 2,000 lines. */
  readonly answers: Readonly<Record<'completion' | 'hover' | 'diagnostics', number>>
  /** The memory of the process after 10,000 edits, in MB. */
  readonly megabytes: number
}

/** Measures the language server. */
export async function benchEditor(runs: number): Promise<EditorMeasured> {
  const { root } = largeObservatory(300, 2000)
  try {
    const starts = await startsInTurn(root, runs)
    const { child, connection } = await start(root)
    const answers = await measureAnswers(connection, root, runs)
    await typeAlong(connection, root, 10_000)
    const megabytes = memoryOf(child)
    child.kill()
    return { rows: [starts], answers, megabytes }
  } finally {
    rmSync(root, { recursive: true, force: true })
  }
}

async function startsInTurn(root: string, runs: number): Promise<Measured> {
  const times = { server: [] as number[], node: [] as number[] }
  for (let run = -2; run < runs; run++) {
    const before = performance.now()
    spawnSync(process.execPath, ['-e', '0'])
    const between = performance.now()
    const { child } = await start(root)
    const after = performance.now()
    child.kill()
    if (run < 0) continue
    times.node.push(between - before)
    times.server.push(after - between)
  }
  const paired = median(times.server.map((each, at) => each / times.node[at]!))
  const what = 'start of the language server, to its first answer / start of Node'
  return { what, subject: median(times.server), base: median(times.node), paired, runs, limit: 3 }
}

async function start(root: string): Promise<{ child: ChildProcess; connection: ProtocolConnection }> {
  const child = spawn(process.execPath, [COMMAND, 'language-server', '--stdio'], { cwd: root })
  const connection = createProtocolConnection(
    new StreamMessageReader(child.stdout),
    new StreamMessageWriter(child.stdin),
  )
  connection.listen()
  await connection.sendRequest('initialize', {
    processId: process.pid,
    rootUri: pathToFileURL(root).href,
    capabilities: {},
  })
  await connection.sendNotification('initialized', {})
  return { child, connection }
}

async function measureAnswers(connection: ProtocolConnection, root: string, runs: number) {
  const uri = pathToFileURL(join(root, FILE)).href
  const text = readFileSync(join(root, FILE), 'utf8')
  let version = 1
  let told: (version: number) => void = () => {}
  connection.onNotification('textDocument/publishDiagnostics', (each: { uri: string; version: number }) => {
    if (each.uri === uri) told(each.version)
  })
  const diagnosed = (wanted: number) =>
    new Promise<void>((resolve) => {
      told = (each) => {
        if (each === wanted) resolve()
      }
    })
  const first = diagnosed(1)
  await connection.sendNotification('textDocument/didOpen', {
    textDocument: { uri, languageId: 'plaintext', version, text },
  })
  await first
  const took = { completion: [] as number[], hover: [] as number[], diagnostics: [] as number[] }
  for (let run = -3; run < runs; run++) {
    version++
    const line = 20 + (run + 3)
    const range = { start: { line, character: 0 }, end: { line, character: 0 } }
    const start = performance.now()
    const done = diagnosed(version)
    await connection.sendNotification('textDocument/didChange', {
      textDocument: { uri, version },
      contentChanges: [{ range, text: `NIGHT_PART${run + 3}=twelve\n` }],
    })
    await done
    const diagnostics = performance.now() - start
    const ask = async (method: string, character: number): Promise<number> => {
      const before = performance.now()
      await connection.sendRequest(`textDocument/${method}`, { textDocument: { uri }, position: { line, character } })
      return performance.now() - before
    }
    const hover = await ask('hover', 3)
    const completion = await ask('completion', 0)
    if (run < 0) continue
    took.diagnostics.push(diagnostics)
    took.hover.push(hover)
    took.completion.push(completion)
  }
  return {
    completion: median(took.completion),
    hover: median(took.hover),
    diagnostics: median(took.diagnostics),
  }
}

/** Types one letter after the other, as quickly as the server takes them. */
async function typeAlong(connection: ProtocolConnection, root: string, edits: number): Promise<void> {
  const uri = pathToFileURL(join(root, FILE)).href
  for (let edit = 0; edit < edits; edit++) {
    const range = { start: { line: 5, character: 0 }, end: { line: 5, character: edit % 2 } }
    await connection.sendNotification('textDocument/didChange', {
      textDocument: { uri, version: 1_000_000 + edit },
      contentChanges: [{ range, text: edit % 2 === 0 ? 'X' : '' }],
    })
    if (edit % 20 === 0)
      await connection.sendRequest('textDocument/hover', { textDocument: { uri }, position: { line: 6, character: 2 } })
  }
}

/** The resident memory of a process, in MB, as Linux tells it. */
function memoryOf({ pid }: ChildProcess): number {
  const [, kilobytes = '0'] = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? []
  return Number(kilobytes) / 1024
}
