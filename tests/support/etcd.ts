import assert from 'node:assert/strict'
import { type ChildProcess, spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestContext } from 'node:test'

/** A cluster of etcd on this machine. */
export interface Cluster {
  /** The addresses of its members. */
  readonly endpoints: readonly string[]
  /** Asks the first member that answers, as an administrator would. */
  readonly ask: (path: string, body: object, token?: string) => Promise<Record<string, unknown>>
  /** Ends a member at once, with what it has not written yet. */
  readonly kill: (member: number) => Promise<void>
  /** Starts a member again, with what it has written. */
  readonly start: (member: number) => Promise<void>
  /** Stops a member as if its machine were hung up, and lets it go on. */
  readonly freeze: (member: number) => void
  readonly thaw: (member: number) => void
}

/**
 * Starts etcd with so many members; it ends with the test.
 *
 * @param more further options of each member
 */
export async function startCluster(context: TestContext, size = 1, more: readonly string[] = []): Promise<Cluster> {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-etcd-'))
  const ports = await freePorts(size * 2)
  const scheme = more.includes('--cert-file') ? 'https' : 'http'
  const client = (at: number) => `${scheme}://127.0.0.1:${ports[at * 2]}`
  const peer = (at: number) => `http://127.0.0.1:${ports[at * 2 + 1]}`
  const numbers = Array.from({ length: size }, (_, at) => at)
  const members: (ChildProcess | null)[] = numbers.map(() => null)
  const words = (at: number) => [
    ...['--name', `m${at}`, '--data-dir', join(directory, `m${at}`), '--logger', 'zap', '--log-level', 'error'],
    ...['--listen-client-urls', client(at), '--advertise-client-urls', client(at)],
    ...['--listen-peer-urls', peer(at), '--initial-advertise-peer-urls', peer(at)],
    ...['--initial-cluster', numbers.map((each) => `m${each}=${peer(each)}`).join(',')],
    ...['--heartbeat-interval', '50', '--election-timeout', '500', ...more],
  ]
  const spawned = (at: number) => {
    members[at] = spawn('etcd', words(at), { stdio: 'ignore', env: { PATH: process.env.PATH } })
  }
  const kill = async (at: number) => {
    const member = members[at]
    members[at] = null
    if (member === null || member === undefined) return
    member.kill('SIGKILL')
    if (member.exitCode === null && member.signalCode === null) await once(member, 'exit')
  }
  context.after(async () => {
    await Promise.all(numbers.map(kill))
    rmSync(directory, { recursive: true, force: true })
  })
  for (const at of numbers) spawned(at)
  const endpoints = numbers.map(client)
  const ask: Cluster['ask'] = (path, body, token) => askFirst(endpoints, path, body, token)
  // With a certificate, only those get an answer who trust it.
  if (scheme === 'http') await until(() => ask('kv/range', { key: 'AA==' }))
  return {
    endpoints,
    ask,
    kill,
    async start(at) {
      spawned(at)
      await until(async () => assert.match(await (await fetch(`${endpoints[at]}/health`)).text(), /true/))
    },
    freeze: (at) => members[at]?.kill('SIGSTOP'),
    thaw: (at) => members[at]?.kill('SIGCONT'),
  }
}

async function askFirst(endpoints: readonly string[], path: string, body: object, token?: string) {
  let last: unknown
  for (const each of endpoints) {
    try {
      const headers: Record<string, string> = token === undefined ? {} : { authorization: token }
      const signal = AbortSignal.timeout(2000)
      const answer = await fetch(`${each}/v3/${path}`, { method: 'POST', body: JSON.stringify(body), headers, signal })
      const data = (await answer.json()) as Record<string, unknown>
      if (!answer.ok) throw new Error(String(data.error))
      return data
    } catch (error) {
      last = error
    }
  }
  throw last
}

/** Waits until something no longer fails. */
export async function until<Result>(act: () => Promise<Result> | Result, limit = 15_000): Promise<Result> {
  const began = Date.now()
  while (true) {
    try {
      return await act()
    } catch (error) {
      if (Date.now() - began > limit) throw error
      await new Promise((resolve) => setTimeout(resolve, 50))
    }
  }
}

async function freePorts(count: number): Promise<readonly number[]> {
  const servers = Array.from({ length: count }, () => createServer().listen(0, '127.0.0.1'))
  await Promise.all(servers.map((each) => once(each, 'listening')))
  const ports = servers.map((each) => (each.address() as { port: number }).port)
  await Promise.all(servers.map((each) => new Promise((resolve) => each.close(resolve))))
  return ports
}

/** A text as the gateway of etcd writes it. */
export const base64 = (text: string | Buffer) => Buffer.from(text).toString('base64')
