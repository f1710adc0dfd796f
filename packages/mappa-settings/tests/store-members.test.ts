import assert from 'node:assert/strict'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:http'
import { createServer as createTlsServer } from 'node:https'
import { createServer as createTcpServer, type Server as NetServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { certificate } from '@mappa/tests/support/certificate'
import { needs } from '@mappa/tests/support/programs'
import { makeProject } from '@mappa/tests/support/project'
import { defineSettings, setting } from 'mappa-settings'
import { etcdStore } from 'mappa-settings/etcd'
import { fetchSettings } from 'mappa-settings/node'
import type { Store, StoreState } from 'mappa-settings/store'

const PREFIX = 'fernhollow/dome-api'

const open = (context: TestContext, options: { readonly endpoints: readonly string[] }): Store => {
  const store = etcdStore({ prefix: PREFIX, ...options })
  context.after(() => store.close!())
  return store
}

const valuesOf = ({ entries }: StoreState) => Object.fromEntries([...entries].map(([name, { value }]) => [name, value]))

const keyOf = (name: string) => Buffer.from(`${PREFIX}/production/${name}`).toString('base64')

async function listening(context: TestContext, server: NetServer): Promise<number> {
  server.listen(0, '127.0.0.1')
  context.after(() => server.close())
  await once(server, 'listening')
  return (server.address() as { port: number }).port
}

let made: { readonly cert: string; readonly key: string; readonly expired: { cert: string; key: string } } | undefined

/** A certificate of this machine, and one that has expired. */
function certificateHere() {
  const make = (dates: readonly [string, string]) => {
    const directory = mkdtempSync(join(tmpdir(), 'mappa-tls-'))
    try {
      return certificate(directory, dates)
    } finally {
      rmSync(directory, { recursive: true })
    }
  }
  made ??= {
    ...make(['20200101000000Z', '20991231235959Z']),
    expired: make(['20200101000000Z', '20200102000000Z']),
  }
  return made
}

const answering =
  (status: number, body: string, headers: Record<string, string> = {}) =>
  async (context: TestContext) =>
    `http://127.0.0.1:${await listening(
      context,
      createServer((_request, response) => response.writeHead(status, headers).end(body)),
    )}`
const saying = (bytes: string) => async (context: TestContext) =>
  `http://127.0.0.1:${await listening(
    context,
    createTcpServer((socket) => {
      socket.on('error', () => {})
      socket.once('data', () => (bytes === '' ? socket.destroy() : socket.write(bytes)))
    }),
  )}`
const secured = (host: string, pick: 'good' | 'expired') => async (context: TestContext) => {
  const { expired, ...good } = certificateHere()
  const own = pick === 'good' ? good : expired
  const port = await listening(
    context,
    createTlsServer(own, (_request, response) => response.end('{}')),
  )
  return `https://${host}:${port}`
}

/** Members of a cluster that are none, or not fit to be asked; each gives its address. */
const FAULTY_MEMBERS: Readonly<Record<string, (context: TestContext) => Promise<string>>> = {
  'shows a page of a proxy without its backend': answering(502, '<html>Bad gateway</html>'),
  'shows a page of a proxy that is overloaded': answering(503, 'try later'),
  'is asked too often': answering(429, 'too many'),
  'is asked too often, as JSON': answering(429, '{"error":"slow down"}'),
  'shows a page of HTML': answering(200, '<html>Sign in</html>'),
  redirects: answering(302, '', { location: 'http://127.0.0.1:1/' }),
  'names no revision': answering(200, '{}'),
  'answers with a list': answering(200, '[]'),
  'gives keys that are none': answering(200, '{"header":{"revision":"7"},"kvs":[7,null]}'),
  'gives keys without revisions': answering(200, '{"header":{"revision":"7"},"kvs":[{"key":"QQ=="}]}'),
  'has no gateway': answering(404, '404 page not found'),
  'switches to another protocol': saying(
    'HTTP/1.1 101 Switching Protocols\r\nUpgrade: x\r\nConnection: Upgrade\r\n\r\n',
  ),
  'does not speak HTTP': saying('220 mail.fernhollow.example\r\n'),
  'hangs up': saying(''),
  'answers half of it': saying('HTTP/1.1 200 OK\r\ncontent-length: 99\r\n\r\n{"header'),
  'says nothing': saying(' '),
  'has a certificate that has expired': secured('127.0.0.1', 'expired'),
  'has a certificate of another name': secured('localhost', 'good'),
  'does not speak TLS': async (context) => (await answering(200, '{}')(context)).replace('http:', 'https:'),
}

describe('a store of several members', needs('openssl'), () => {
  for (const [name, start] of Object.entries(FAULTY_MEMBERS)) {
    it(`goes on with the next member where one ${name}`, async (context) => {
      const range = { header: { revision: '7' }, kvs: [{ key: keyOf('A'), value: 'MQ==', mod_revision: '7' }] }
      const good = await listening(
        context,
        createServer((_request, response) => response.end(JSON.stringify(range))),
      )
      const faulty = await start(context)
      const options = { memberTimeout: 200, tls: { ca: certificateHere().cert } }
      const store = open(context, { ...options, endpoints: [faulty, `http://127.0.0.1:${good}`] })
      const state = await store.read('production')
      assert.deepEqual(valuesOf(state), { A: '1' })
      const alone = open(context, { ...options, endpoints: [faulty, faulty] })
      const root = makeProject(context, { '.env': '' }).root
      const lastGood = { file: join(root, 'last-good'), key: 'seal-6Tg4Rw9Kz2Bn8Xq' }
      const definition = defineSettings({ a: setting.integer('A number') })
      const notices: string[] = []
      const fetch = (from: Store) =>
        fetchSettings(definition, {
          store: { ...from, describe: () => 'etcd', read: from.read.bind(from) },
          root,
          stage: 'production',
          environment: {},
          timeout: 300,
          lastGood,
          onNotices: (all) => notices.push(...all.map(({ message }) => message)),
        })
      await assert.rejects(fetch(alone), { name: 'SettingsError' })
      assert.equal((await fetch(store)).a, 1)
      assert.equal((await fetch(alone)).a, 1)
      assert.match(notices.join(), /last good values are used/)
    })
  }
})
