import assert from 'node:assert/strict'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, it } from 'node:test'
import { gzipSync } from 'node:zlib'
import { configOf, makePage, type PageProject } from '@mappa/tests/support/page-project'
import { listener, serve } from '@mappa/tests/support/serving'
import { spell, VALUES } from '@mappa/tests/support/spellings'
import fc from 'fast-check'
import { EnvDocument } from 'mappa-settings/envfile'
import { build, type Plugin } from 'vite'

const envOf = (value: string) => EnvDocument.from('').set('DESK_KEY', value).toString()

/** Builds, and returns the files that are named. */
async function buildNamed({ root }: PageProject, plugins: Plugin[] = []): Promise<ReadonlySet<string>> {
  const message = await build(configOf(root, { plugins })).then(() => '', String)
  return new Set([...message.matchAll(/^ *error {2}(.+?) {2}value-in-page$/gm)].map(([, file]) => file!))
}

/** Writes into the output when everything else has been written. */
function writeLate(root: string, files: readonly (readonly [string, string | Uint8Array])[]): Plugin {
  return {
    name: 'late',
    closeBundle() {
      for (const [name, content] of files) {
        const file = join(root, 'dist/late', name)
        mkdirSync(dirname(file), { recursive: true })
        writeFileSync(file, content)
      }
    },
  }
}

describe('the search of a page', () => {
  for (const [at, value] of fc.sample(VALUES, { numRuns: 4, seed: 20261202 }).entries())
    it(`finds a value however it is written: ${at + 1}`, async (context) => {
      const files = spell(value)
      const layers = { '.env.production.local': envOf(value), '.env.development.local': envOf(value) }
      const publicFiles = Object.fromEntries(files.map(([name, content]) => [`public/${name}`, content]))
      const page = makePage(context, { ...layers, ...publicFiles })
      const named = await buildNamed(page)
      assert.deepEqual(
        files.flatMap(([name]) => (named.has(name) ? [] : name)),
        [],
        JSON.stringify(value),
      )

      const urls = files.map(([name]) => `/${encodeURI(name)}`)
      const { statuses } = await serve(context, page.root, { urls })
      assert.deepEqual(
        urls.filter((url) => statuses.get(url)! < 400),
        [],
        JSON.stringify(value),
      )

      const late = makePage(context, layers)
      const lateNamed = await buildNamed(late, [writeLate(late.root, files)])
      assert.deepEqual(
        files.flatMap(([name]) => (lateNamed.has(`dist/late/${name}`) ? [] : name)),
        [],
      )
    })

  it('looks at the name of what it can not read, and shows no secret in it', async (context) => {
    const key = 'slip93ae77c0d1f4'
    const page = makePage(context, {
      '.env.production.local': `DESK_KEY=${key}\n`,
      [`public/${key}.gz`]: gzipSync('x'.repeat(4000)).subarray(0, 30),
    })
    const message = await build(configOf(page.root)).then(() => '', String)
    assert.match(message, /value-in-page/)
    assert.ok(!message.includes(key), message)
  })

  it('says what it could not read, and what it read byte by byte', async (context) => {
    const page = makePage(context, {
      'public/moon.png': Buffer.from('\x89PNG\r\n\x1a\n\0\0\0\rIHDR', 'latin1'),
      'public/star.gz': gzipSync('x'.repeat(4000)).subarray(0, 30),
      'public/nul.js': 'let fog = "\0"\n',
    })
    const { said, logger } = listener()
    await page.build({ customLogger: logger, logLevel: 'info' })
    const all = said.join('\n')
    assert.match(all, /no value of a private setting found in what was read \(searched for \d+\)/)
    assert.match(all, /1 opaque, read byte by byte only: 1 PNG images/)
    assert.match(all, /1 not read, and nobody knows what is in them:\n {2}star\.gz: it is damaged/)
    assert.equal(readFileSync(join(page.root, 'dist/nul.js'), 'utf8'), 'let fog = "\0"\n')
  })
})
