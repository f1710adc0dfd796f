import assert from 'node:assert/strict'
import { describe, it, type TestContext } from 'node:test'
import { configOf, makePage, PAGE_FILES, type PageProject } from '@mappa/tests/support/page-project'
import { raw } from '@mappa/tests/support/serving'
import { createServer } from 'vite'

const CROSSING = "import key from '../.env.development.local?raw'\nconsole.log(key)\n"

/** Serves a page with everything that a developer's server does, and asks it as a browser would. */
async function develop(context: TestContext, page: PageProject) {
  const server = await createServer({
    ...configOf(page.root),
    server: { port: 0 },
    optimizeDeps: { noDiscovery: true },
  })
  context.after(() => server.close())
  await server.listen()
  const { port } = server.httpServer!.address() as { port: number }
  const ask = (path: string, headers: Record<string, string>) => raw(port, path, headers)
  /** Opens the page with its modules, and says what stands there then. */
  const open = async () => {
    await ask('/', { accept: 'text/html' })
    await ask('/src/main.ts', { 'sec-fetch-dest': 'script' })
    await ask('/.env.development.local?import&raw', { 'sec-fetch-dest': 'script' })
    return ask('/', { accept: 'text/html' })
  }
  const until = async (status: number, see: () => Promise<{ status: number }>) => {
    for (let tries = 0; tries < 100; tries++) {
      if ((await see()).status === status) return
      await new Promise((done) => setTimeout(done, 50))
    }
    assert.fail(`the page never answered with ${status}`)
  }
  return { server, ask, open, until }
}

describe('a refused page', () => {
  it('stays refused when a file is saved and nothing is fixed, and comes back when it is', async (context) => {
    const page = makePage(context, { 'src/main.ts': `${PAGE_FILES['src/main.ts']}${CROSSING}` })
    const { ask, open, until } = await develop(context, page)
    assert.equal((await open()).status, 500)
    page.write('src/main.ts', `${PAGE_FILES['src/main.ts']}// saved\n${CROSSING}`)
    // The page gives way for a moment, and is refused again when it asks for its modules.
    await until(200, () => ask('/', { accept: 'text/html' }))
    await until(500, open)
    page.write('src/main.ts', PAGE_FILES['src/main.ts']!)
    await until(200, () => ask('/', { accept: 'text/html' }))
    const modules = await ask('/src/main.ts', { 'sec-fetch-dest': 'script' })
    assert.ok(!modules.text.includes('.env'))
    assert.equal((await ask('/', { accept: 'text/html' })).status, 200)
  })

  it('comes back whatever pages ask that are still open from before', async (context) => {
    const [good, bad] = [PAGE_FILES['src/main.ts']!, `${PAGE_FILES['src/main.ts']}${CROSSING}`]
    const page = makePage(context, { 'src/main.ts': bad })
    const { ask, open, until } = await develop(context, page)
    const openPage = async () => {
      for (let times = 0; times < 6; times++) {
        await Promise.all([open(), new Promise((done) => setTimeout(done, 10 * times))])
      }
    }
    for (let round = 0; round < 3; round++) {
      const before = openPage()
      page.write('src/main.ts', `${good}// ${round}\n`)
      await Promise.all([before, openPage()])
      await until(200, () => ask('/', { accept: 'text/html' }))
      const after = openPage()
      page.write('src/main.ts', `${bad}// ${round}\n`)
      await after
      await until(500, async () => {
        await ask('/src/main.ts', { 'sec-fetch-dest': 'script' })
        return ask('/', { accept: 'text/html' })
      })
    }
  })

  it('survives requests with a host that is none', async (context) => {
    const page = makePage(context, { '.env': '' })
    const { ask } = await develop(context, page)
    for (const host of ['127.0.0.1:99999', 'a b', '::::', '[', ''])
      assert.notEqual((await ask('/', { accept: 'text/html', host })).status, 200)
    const shown = await ask('/', { accept: 'text/html' })
    assert.equal(shown.status, 500)
    assert.match(shown.text, /VISITOR_STAR_MAP_URL/)
  })

  it('is refused for everybody who asks at the same time', async (context) => {
    const page = makePage(context, { 'src/main.ts': `${PAGE_FILES['src/main.ts']}${CROSSING}` })
    const { ask, open } = await develop(context, page)
    const answers = await Promise.all(
      Array.from({ length: 20 }, () => ask('/.env.development.local?import&raw', { 'sec-fetch-dest': 'script' })),
    )
    for (const { text } of answers) assert.match(text, /\/@mappa\/problems/)
    assert.equal((await open()).status, 500)
  })
})
