import assert from 'node:assert/strict'
import { readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { after, before, describe, it, type TestContext } from 'node:test'
import { gzipSync } from 'node:zlib'
import { decode } from '@jridgewell/sourcemap-codec'
import { openPage, serveFiles, startChromium } from '@mappa/tests/support/chromium'
import { runDomeApi, runNightDesk } from '@mappa/tests/support/examples'
import {
  configOf,
  filesIn,
  KEY,
  makePage,
  PAGE_DEFINITION,
  PAGE_FILES,
  type PageProject,
} from '@mappa/tests/support/page-project'
import { needs } from '@mappa/tests/support/programs'
import { REPOSITORY } from '@mappa/tests/support/project'
import { createJiti } from 'jiti'
import { type Definition, fillPage, publicPayload } from 'mappa-settings'
import { publicReplacements } from 'mappa-settings/bundler'
import { fillPages, loadSettings } from 'mappa-settings/node'
import type { Browser } from 'playwright-core'
import { createServer, type PreviewServer, preview, type ViteDevServer } from 'vite'

let browser: Browser
before(async () => {
  if (needs('chromium-headless-shell').skip === false) browser = await startChromium()
})
after(() => browser?.close())

/** A value with everything that could end a script, a text or a page. */
const TRICKY = `it's "dark" </script><!-- & \\ \u2028 $& \${a} <b>`

/** The definition of a project, as its programs have it. */
const definitionOf = async ({ root }: PageProject) =>
  (await createJiti(root).import(join(root, 'settings.definition.ts'), { default: true })) as Definition

/** The settings of a project for production. */
const load = async (page: PageProject, environment: Record<string, string>) =>
  loadSettings(await definitionOf(page), { stage: 'production', root: page.root, environment })

const listening = (server: ViteDevServer | PreviewServer) => server.resolvedUrls!.local[0]!

describe('the page of the night desk', needs('chromium-headless-shell'), () => {
  it('has the values of each stage, and those of the start without another build', async (context) => {
    const desk = runNightDesk()
    context.after(desk.end)
    const dome = await runDomeApi()
    context.after(() => dome.end())
    const service = await dome.start('staging', { SERVER_PORT: '4119' })
    context.after(() => service.stop())
    await desk.buildServer()
    const rehearsal = 'Rehearsal: nights booked here do not take place.'
    /** Opens the page as it is served in a stage, and tells what a visitor sees. */
    const see = async (stage: string, book = false) => {
      const { url, stop } = await desk.serve(stage, { VISITOR_API_URL: service.url! })
      const { page, errors } = await openPage(context, browser, url)
      await page.waitForSelector('.places')
      assert.equal(await page.innerText('.places'), rehearsal)
      if (book) {
        await page.fill('input', 'Ada Fern')
        await page.click('button')
        await page.waitForSelector('output')
        assert.match(await page.innerText('output'), /^Slip for Ada Fern: [0-9A-F]{8}$/)
      }
      assert.deepEqual(errors, [])
      const seen = [await page.getAttribute('a', 'href'), (await page.locator('.notice').allInnerTexts()).join()]
      await stop()
      return seen
    }
    const maps = 'https://maps.fernhollow.example'
    for (const [stage, map, notice] of [
      ['development', `${maps}/drill`, ''],
      ['staging', `${maps}/tonight`, rehearsal],
      ['production', `${maps}/tonight`, ''],
    ] as const) {
      await desk.buildPage(stage)
      assert.deepEqual(await see(stage), [map, notice])
    }
    // What was built last is the build for production.
    assert.deepEqual(await see('staging', true), [`${maps}/tonight`, rehearsal])
  })
})

describe('runtime values', needs('chromium-headless-shell'), () => {
  it('reach a page of plain files, whatever they hold, and are replaced by others', async (context) => {
    const page = makePage(context, {
      'src/main.ts': `import { settings } from 'virtual:mappa/browser'
const { visitor } = settings
document.querySelector('h1')!.textContent = [visitor.unread, visitor.notice, visitor.closes?.getTime(), visitor.mirror, visitor.opens?.getTime(), visitor.nights.join()].join('|')
`,
      '.env.production': `VISITOR_UNREAD="${TRICKY.replace(/["\\$`]/g, '\\$&')}"\nVISITOR_OPENS=2026-11-23T18:30:00Z\n`,
    })
    await page.build()
    for (const [notice, closes, mirror] of [
      [TRICKY, '2026-11-24T03:00:00Z', 'west'],
      ['foggy', undefined, 'east'],
    ] as const) {
      const environment = { VISITOR_NOTICE: notice, VISITOR_MIRROR: mirror, ...(closes && { VISITOR_CLOSES: closes }) }
      assert.deepEqual(fillPages(join(page.root, 'dist'), await load(page, environment)), ['index.html'])
      const files = filesIn(join(page.root, 'dist'))
      assert.ok(!/<\/script><!--/.test(files['index.html']!))
      const { heading, errors } = await openPage(context, browser, await serveFiles(context, files))
      const time = (text?: string) => (text === undefined ? '' : Date.parse(text))
      await heading([TRICKY, notice, time(closes), mirror, time('2026-11-23T18:30:00Z'), 'Fri,Sat'].join('|'))
      assert.deepEqual(errors, [])
    }
  })

  it('are missed with a sentence that says what to do', async (context) => {
    const page = makePage(context)
    const built = await page.build()
    const files = { ...built }
    const url = await serveFiles(context, files)
    const element = '<script type="application/json" id="mappa-settings"></script>'
    const html = built['index.html']!
    assert.ok(html.includes(element))
    const filled = fillPage(html, await load(page, { VISITOR_NOTICE: 'foggy' }))
    assert.match(filled, /{"visitor.notice":"foggy","visitor.mirror":"east"}/)
    const cases: readonly [html: string, says: RegExp][] = [
      [html, /is empty\.\s+→ Have the server send fillPage/],
      [html.replace(element, ''), /should have one element mappa-settings, and has 0/],
      [html.replace(element, element + element), /should have one element mappa-settings, and has 2/],
      [filled.replace('{"', '{'), /is not JSON/],
      [filled.replace('"visitor.notice":"foggy",', ''), /lacks the runtime setting visitor\.notice/],
      [
        filled.replace(/\{.*\}/, '[]'),
        /lacks the runtime setting visitor\.notice\.[\s\S]*lacks the runtime setting visitor\.mirror/,
      ],
      [filled.replace('"foggy"', '["foggy"]'), /visitor\.notice has a value of another kind/],
      [filled.replace('"east"', '"north"'), /visitor\.mirror has a value of another kind/],
      [filled.replace('"east"', '"east","visitor.closes":"soon"'), /visitor\.closes has a value of another kind/],
    ]
    const { page: shown, errors, heading } = await openPage(context, browser, url)
    for (const [changed, says] of cases) {
      files['index.html'] = changed
      errors.length = 0
      await shown.goto(url)
      assert.match(errors.join('\n'), /^SettingsError: /)
      assert.match(errors.join('\n'), says)
    }
    files['index.html'] = filled
    errors.length = 0
    await shown.goto(url)
    await heading('foggy')
    assert.deepEqual(errors, [])
  })

  it('are read without Vite as well', async (context) => {
    const page = makePage(context, { '.env.production': 'VISITOR_NOTICE=foggy\n' })
    const url = await serveFiles(context, {
      'browser.js': readFileSync(join(REPOSITORY, 'packages/mappa-settings/dist/browser.js'), 'utf8'),
      'index.html': `<h1></h1>${publicPayload(await load(page, {}))}<script type="module">
import { runtimeSettings } from './browser.js'
const settings = runtimeSettings()
document.querySelector('h1').textContent = settings.visitor.notice + Object.isFrozen(settings.visitor)
</script>`,
    })
    const { heading } = await openPage(context, browser, url)
    await heading('foggytrue')
  })

  it('have their refusals on the server', async (context) => {
    const page = makePage(context)
    assert.throws(() => publicPayload({}), /publicPayload takes what loadSettings gave back/)
    const settings = await load(page, {})
    assert.throws(() => fillPages(page.root, settings), /No page in .* has a placeholder for runtime settings/)
  })

  it('cost a page at most 1 kB of code, compressed', () => {
    assert.ok(gzipSync(readFileSync(join(REPOSITORY, 'packages/mappa-settings/dist/browser.js'))).length <= 1000)
  })
})

describe('the text of a page', () => {
  it('has values in the place of names that are kept, escaped, and leaves everything else alone', async (context) => {
    const html = '<title>%VISITOR_PLACES% %VISITOR_UNREAD%</title><p>%MOON% 100%</p>'
    const unread = `VISITOR_UNREAD="stars & <moons>"\n`
    const page = makePage(context, { 'index.html': html, '.env': `${PAGE_FILES['.env']}${unread}` })
    const files = await page.build({}, { inlineReads: ['import.meta.env'] })
    assert.match(files['index.html']!, /<title>12 stars &amp; &lt;moons&gt;<\/title><p>%MOON% 100%<\/p>/)
  })
})

describe('the source map of code in which reads were replaced', () => {
  const READS: Readonly<Record<string, string>> = {
    'each by itself': 'show(w, import.meta.env.VISITOR_PLACES, w); show(w)\n',
    'over several lines': 'show(w, import.meta\n  .env\n  .VISITOR_PLACES, w); show(w)\n',
    'out of an object': '{ const { VISITOR_UNREAD: line } = import.meta.env; show(w, line) }\n',
    'in templates, beside other letters': 'show(`🔭ü ${import.meta.env.VISITOR_PLACES} ${show(w)}`, w)\r\n',
    'of settings, one by one': 'show(w, settings.visitor.places, w)\n',
  }
  for (const [how, line] of Object.entries(READS))
    it(`leads each name to where it was: ${how}`, async (context) => {
      let count = 0
      const begin = "import { settings } from 'virtual:mappa/browser'\nconst { visitor } = settings\nshow(w, visitor)\n"
      const source = `${begin}${line.repeat(3)}${line.trimEnd()}; ${line}`.replaceAll(/\bw\b/g, () => `w${++count}`)
      const page = makePage(context, { 'src/main.js': source, 'src/main.ts': "import './main.js'\n" })
      const files = await page.build(
        { build: { sourcemap: true, minify: false } },
        { inlineReads: ['import.meta.env'] },
      )
      const [file] = Object.keys(files).filter((each) => each.endsWith('.js'))
      const { mappings, sources } = JSON.parse(files[`${file}.map`]!) as { mappings: string; sources: string[] }
      const decoded = decode(mappings)
      const main = sources.findIndex((each) => each.endsWith('src/main.js'))
      const texts = files[file!]!.split('\n').flatMap((text, line) =>
        // The name of the map at the end has a hash in it, and comments a path, with letters of any kind.
        [...text.replace(/^\/\/#.*/, '').matchAll(/\bw\d+/g)].map(({ 0: word, index }) => ({ word, line, index })),
      )
      assert.equal(texts.length, count)
      for (const { word, line, index } of texts) {
        const [, from, at, column] = decoded[line]!.findLast(([start]) => start <= index)!
        assert.equal(from, main)
        const [found] = /^\w+/.exec(source.split('\n')[at!]!.slice(column)) ?? []
        assert.equal(found, word)
      }
    })
})

describe('the table of replacements', () => {
  it('has the texts of public settings for any bundler', async (context) => {
    const page = makePage(context)
    const definition = await definitionOf(page)
    const options = { stage: 'production', root: page.root, environment: {} }
    assert.deepEqual(publicReplacements(definition, { ...options, objects: ['process.env'] }), {
      'process.env.VISITOR_STAR_MAP_URL': '"https://maps.fernhollow.example/tonight"',
      'process.env.VISITOR_PLACES': '"12"',
      'process.env.VISITOR_OPENS': 'undefined',
      'process.env.VISITOR_NIGHTS': '"Fri,Sat"',
      'process.env.VISITOR_UNREAD': '"nobody reads this text"',
      'process.env.MAPPA_BUILD_STAGE': '"production"',
    })
    assert.deepEqual(publicReplacements(definition, { ...options, objects: ['process.env'], quoted: false }), {
      'process.env.VISITOR_STAR_MAP_URL': 'https://maps.fernhollow.example/tonight',
      'process.env.VISITOR_PLACES': '12',
      'process.env.VISITOR_NIGHTS': 'Fri,Sat',
      'process.env.VISITOR_UNREAD': 'nobody reads this text',
      'process.env.MAPPA_BUILD_STAGE': 'production',
    })
    // No key is needed.
    page.write('.env.production.local', '')
    assert.equal(publicReplacements(definition, options)['import.meta.env.VISITOR_PLACES'], '"12"')
    page.write('.env', 'VISITOR_PLACES=many\n')
    assert.throws(() => publicReplacements(definition, options), /not-integer[\s\S]*missing|missing[\s\S]*not-integer/)
    page.write('.env.production.local', 'DESK_KEY=slip-93ae77c0\n')
    page.write('.env', `${PAGE_FILES['.env']}VISITOR_UNREAD=slip-93ae77c0\n`)
    assert.throws(() => publicReplacements(definition, options), /public-is-private/)
  })
})

describe('serving', needs('chromium-headless-shell'), () => {
  const serve = async (context: TestContext, page: PageProject, base = '/') => {
    const options = { inlineReads: ['import.meta.env'] } as const
    const server = await createServer({ ...configOf(page.root, { base }, options), server: { port: 0 } })
    context.after(() => server.close())
    await server.listen()
    return openPage(context, browser, listening(server))
  }

  it('shows what is wrong in the place of the page, and the page again when that is fixed', async (context) => {
    const main = `${PAGE_FILES['src/main.ts']}document.title = 'for ' + import.meta.env.VISITOR_PLACES\n`
    const page = makePage(context, { 'src/main.ts': main })
    const layer = PAGE_FILES['.env']!
    const { heading, page: shown, errors } = await serve(context, page)
    await heading('tonight | 12')
    page.write('.env', 'VISITOR_STAR_MAP_URL=maps\nVISITOR_PLACES=many\n')
    await heading('Settings for development: 2 errors')
    const text = await shown.innerText('body')
    for (const part of [
      '.env:2:16',
      'VISITOR_PLACES must be a whole number; it is "many".',
      '2 | VISITOR_PLACES=many',
      'Write digits only',
    ])
      assert.ok(text.includes(part), part)
    page.write('.env', `${layer}VISITOR_PLACES=3\nVISITOR_NOTICE="it's </script> foggy"\n`)
    await heading("tonight | 3 | it's </script> foggy")
    page.write('.env.development', 'VISITOR_PLACES=4\n')
    await heading('tonight | 4')
    page.write(
      'settings.definition.ts',
      PAGE_DEFINITION.replace('public: true, default: 12', 'public: true, maximum: 3'),
    )
    await heading('1 error')
    page.write('settings.definition.ts', "throw new Error('fog')")
    await heading('The definition of settings: 1 error')
    assert.match(await shown.innerText('body'), /settings\.definition\.ts:1:[\s\S]*can't be loaded: fog/)
    rmSync(join(page.root, 'settings.definition.ts'))
    await shown.getByText('No definition of settings was found').waitFor({ timeout: 15_000 })
    page.write('settings.definition.ts', PAGE_DEFINITION)
    await heading('tonight | 4')
    assert.deepEqual(errors, [])
  })

  it('begins with what is wrong, and holds the border', async (context) => {
    const page = makePage(context, {
      '.env': '',
      'src/helper.ts': `export { settings } from './server.ts'\n`,
      'src/server.ts': `export { settings } from 'virtual:mappa/server'\n`,
    })
    const { heading, page: shown } = await serve(context, page, '/desk/')
    await heading('Settings for development: 1 error')
    page.write('.env', PAGE_FILES['.env']!)
    await heading('tonight | 12')
    const main = PAGE_FILES['src/main.ts']!
    for (const [line, says] of [
      [
        `import { settings as all } from './helper.ts'\nconsole.log(all)`,
        /src\/main\.ts:5 [\s\S]*src\/helper\.ts:1 .*change this[\s\S]*src\/server\.ts:1/,
      ],
      [
        `import definition from '../settings.definition.ts'\nconsole.log(definition)`,
        /Page code imports the definition/,
      ],
      [
        `import { loadSettings } from 'mappa-settings/node'\nconsole.log(loadSettings)`,
        /mappa-settings\/node is for servers only/,
      ],
      ['console.log(import.meta.env.DESK_KEY)', /reads import\.meta\.env\.DESK_KEY, but that setting is a secret/],
    ] as const) {
      page.write('src/main.ts', `${main}\n${line}\n`)
      await heading('The page: 1 error')
      const text = await shown.innerText('body')
      assert.match(text, says)
      page.write('src/main.ts', main)
      await heading('tonight | 12')
    }
    page.write(
      'src/main.ts',
      `${main}\ntry { settings.visitor.placse } catch (error) { document.querySelector('h1')!.textContent = error.message }\n`,
    )
    await heading('There is no public setting visitor.placse')
  })

  it('gives code of a server all settings, and new ones when a file changes, also one of the definition', async (context) => {
    const page = makePage(context, {
      'rules.ts': 'export const port = 4300\n',
      'settings.definition.ts': `import { port } from './rules.ts'\n${PAGE_DEFINITION.replace('default: 4300', 'default: port')}`,
      'src/server.ts': `import { settings } from 'virtual:mappa/server'
import { settings as shown } from 'virtual:mappa/browser'
export const seen = [settings.server.port, settings.desk.key.reveal().length, shown.visitor.notice]
`,
    })
    const server = await createServer({ ...configOf(page.root), server: { middlewareMode: true }, appType: 'custom' })
    context.after(() => server.close())
    const see = async (...wanted: unknown[]) => {
      const end = Date.now() + 10_000
      for (;;) {
        const { seen } = (await server.ssrLoadModule('/src/server.ts')) as { seen: unknown[] }
        if (JSON.stringify(seen) === JSON.stringify(wanted)) return
        if (Date.now() > end) assert.deepEqual(seen, wanted)
        await new Promise((resolve) => setTimeout(resolve, 50))
      }
    }
    await see(4300, 22, '')
    page.write('.env.development', 'VISITOR_NOTICE=foggy\n')
    await see(4300, 22, 'foggy')
    page.write('rules.ts', 'export const port = 4555\n')
    await see(4555, 22, 'foggy')
    const html = await server.transformIndexHtml('/', '<html><head></head></html>')
    assert.match(html, /{"visitor\.notice":"foggy","visitor\.mirror":"east"}/)
  })

  it('fills pages of a build with the values of a stage', async (context) => {
    const page = makePage(context, { '.env.staging': 'VISITOR_NOTICE=rehearsal\nDESK_KEY=slip-0123456789\n' })
    await page.build()
    const server = await preview({ ...configOf(page.root, { mode: 'staging' }), preview: { port: 0 } })
    context.after(() => server.close())
    const { heading, page: shown } = await openPage(context, browser, listening(server))
    await heading('rehearsal')
    page.write('.env.staging', 'VISITOR_NOTICE=fog\nDESK_KEY=slip-0123456789\n')
    await shown.reload()
    await heading('fog')
    page.write('.env.staging', '')
    await shown.reload()
    await heading('Settings for staging: 1 error')
    page.write('.env.staging', 'VISITOR_NOTICE=clear\nDESK_KEY=slip-0123456789\n')
    await heading('clear')
    assert.ok(!(await shown.content()).includes(KEY))
  })

  it('gives workers, other pages and pages below a base the values of the build', async (context) => {
    const page = makePage(context, {
      'src/main.ts': `const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
worker.onmessage = ({ data }) => { document.querySelector('h1')!.textContent = data }
`,
      'src/worker.ts': `import { settings } from 'virtual:mappa/browser'\npostMessage('worker ' + settings.visitor.places)\n`,
      'night.html': '<h1></h1><script type="module" src="/src/night.ts"></script>',
      'src/night.ts': PAGE_FILES['src/main.ts']!,
    })
    const input = ['index.html', 'night.html']
    const files = await page.build({ base: '/desk/', worker: { format: 'es' }, build: { rolldownOptions: { input } } })
    assert.match(files['night.html']!, /id="mappa-settings"/)
    assert.ok(!files['index.html']!.includes('mappa'))
    const below = Object.fromEntries(Object.entries(files).map(([name, text]) => [`desk/${name}`, text]))
    below['desk/night.html'] = fillPage(files['night.html']!, await load(page, { VISITOR_NOTICE: 'foggy' }))
    const url = `${await serveFiles(context, below)}desk/`
    await (await openPage(context, browser, url)).heading('worker 12')
    await (await openPage(context, browser, `${url}night.html`)).heading('tonight | 12 | foggy')
  })
})
