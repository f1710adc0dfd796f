import assert from 'node:assert/strict'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, it } from 'node:test'
import { LAYER_ORDER, type LayerKind, listLayerFiles, listLayerPaths } from '@mappa/core/layers/order'
import { listRows, MUTANTS } from '../scripts/mutants/list.mjs'
import { makeProject, REPOSITORY, run } from './support/project.ts'

const filesIn = (directory: string) =>
  readdirSync(directory, { recursive: true, withFileTypes: true })
    .filter((each) => each.isFile())
    .map((each) => join(each.parentPath, each.name).slice(directory.length + 1))
    .sort()

/** Every page that people read. */
const PAGES = [
  'README.md',
  'CONTRIBUTING.md',
  'CHANGELOG.md',
  ...filesIn(join(REPOSITORY, 'docs'))
    .filter((file) => file.endsWith('.md'))
    .map((file) => `docs/${file}`),
]

/** What a heading is called in a link, as code hosts make it. */
function anchorsIn(text: string): ReadonlySet<string> {
  const headings = [...text.replace(/^```[\s\S]*?^```/gm, '').matchAll(/^#+ (.+)$/gm)].map((match) => match[1]!)
  const names = headings.map((each) =>
    each
      .toLowerCase()
      .replace(/[^\p{L}\p{N} _-]/gu, '')
      .replaceAll(' ', '-'),
  )
  return new Set([...names, ...[...text.matchAll(/<a id="([^"]+)"/g)].map((match) => match[1]!)])
}

describe('the documentation', () => {
  for (const page of PAGES.filter((each) => !each.startsWith('docs/api/')))
    it(`has no broken link in ${page}`, () => {
      const text = readFileSync(join(REPOSITORY, page), 'utf8')
      const links = [...text.replace(/^```[\s\S]*?^```/gm, '').matchAll(/\]\(([^)\s]+)\)/g)].map((match) => match[1]!)
      for (const link of links.filter((each) => !/^[a-z]+:/.test(each))) {
        const [file, anchor] = link.split('#') as [string, string?]
        const target = file === '' ? join(REPOSITORY, page) : join(REPOSITORY, dirname(page), file)
        assert.ok(existsSync(target), link)
        if (anchor !== undefined) assert.ok(anchorsIn(readFileSync(target, 'utf8')).has(anchor), link)
      }
    })

  it('installs and runs the packages by the names that a registry gives, as all that is printed does', () => {
    const sources = ['mappa-settings', 'mappa-cli'].flatMap((name) =>
      filesIn(join(REPOSITORY, 'packages', name))
        .filter((file) => /^(?:src\/.*\.tsx?|README\.md|package\.json)$/.test(file))
        .map((file) => `packages/${name}/${file}`),
    )
    assert.ok(sources.length > 300)
    // Only after these words a registry is asked for a name; a program that is installed is simply `mappa`.
    const asks =
      /(?:\bnpx|\bbunx|\b(?:npm|pnpm|yarn|bun) (?:i|install|add|exec|dlx|create|x))\b(?:['", ]+-{1,2}[\w-]+)*['", ]+mappa(?![\w-])/
    const wrong = [...PAGES, ...sources].flatMap((file) =>
      readFileSync(join(REPOSITORY, file), 'utf8')
        .split('\n')
        .flatMap((line, at) => (asks.test(line) ? [`${file}:${at + 1} ${line.trim()}`] : [])),
    )
    assert.deepEqual(wrong, [])
    for (const line of [
      'npx mappa check',
      "cmd = { 'npx', 'mappa', 'check' }",
      'npm install --save-dev mappa;',
      'pnpm add -D mappa',
    ])
      assert.match(line, asks)
  })

  it('lists the layers in the order of the code, and no other', () => {
    const files = listLayerFiles('<stage>').map((file) => `\`${file}\``)
    const called: Readonly<Record<LayerKind, readonly string[]>> = {
      defaults: ['defaults of the definition'],
      file: [
        'the four files of the next line in each directory that `layersFrom` names (if configured)',
        files.join(', '),
      ],
      directory: ['a directory with one file per variable (if configured)'],
      store: ['a store that many machines share (if configured)'],
      environment: ['the process environment'],
      flags: ['command-line flags (if enabled)'],
    }
    assert.deepEqual(listLayerPaths('night', ['..']).map(dirname), ['..', '..', '..', '..', '.', '.', '.', '.'])
    const readme = readFileSync(join(REPOSITORY, 'README.md'), 'utf8')
    const [, list] = /\nFrom lowest to highest; a higher layer wins:\n\n((?:\d\. .+\n)+)/.exec(readme)!
    const expected = LAYER_ORDER.flatMap((kind) => called[kind]).map((text, at) => `${at + 1}. ${text}\n`)
    assert.equal(list, expected.join(''))
    const [, origins] = /^`origin` has `layer` \((.*?), or/m.exec(
      readFileSync(join(REPOSITORY, 'docs/json-output.md'), 'utf8'),
    )!
    const ids = LAYER_ORDER.filter((kind) => kind !== 'file').map((kind) => `\`${kind}\``)
    assert.deepEqual(origins!.split(', ').sort(), ids.sort())
  })

  it('shows a refusal in the README as it is printed', (context) => {
    const readme = readFileSync(join(REPOSITORY, 'README.md'), 'utf8')
    const [, printed] = /```text\n\$ node server\.mjs\n([\s\S]*?)```/.exec(readme) ?? []
    const [, definition] = /```js\n(import \{ defineSettings, setting \}[\s\S]*?)```/.exec(readme) ?? []
    const { root } = makeProject(context, {
      'settings.definition.mjs': definition!,
      'server.mjs': `import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.mjs'
loadSettings(definition, { onErrors: 'exit' })`,
      '.env': 'SERVER_PORT=--\nDOME_MOTORS=maybe\nDOME_URL=http://127.0.0.1:4200\n',
    })
    const { status, stderr } = run(process.execPath, ['server.mjs'], root)
    assert.equal(status, 78)
    assert.equal(stderr.slice(0, printed!.length), printed)
  })

  it('shows every picture, and has no other', () => {
    const pictures = readdirSync(join(REPOSITORY, 'docs/screenshots'))
    const readme = readFileSync(join(REPOSITORY, 'README.md'), 'utf8')
    assert.ok(pictures.length < 20)
    assert.deepEqual(
      pictures.filter((each) => !readme.includes(`docs/screenshots/${each}`)),
      [],
    )
  })
})

describe('the protections that npm run mutants breaks', () => {
  const rows = listRows(readFileSync(join(REPOSITORY, 'docs/security.md'), 'utf8'))

  it('are at least one for each row of docs/security.md, and no others', () => {
    assert.ok(rows.length > 40)
    assert.deepEqual(
      rows.filter((cell) => !MUTANTS.some(({ row }) => cell.startsWith(row))),
      [],
    )
    assert.deepEqual(
      MUTANTS.filter(({ row }) => !rows.some((cell) => cell.startsWith(row))).map(({ breaks }) => breaks),
      [],
    )
  })

  for (const { breaks, test, name, more = [], ...first } of MUTANTS)
    it(`stand where they are looked for: ${breaks}`, () => {
      for (const { file, find } of [first, ...more])
        assert.equal(readFileSync(join(REPOSITORY, file), 'utf8').split(find).length, 2, file)
      assert.ok(readFileSync(join(REPOSITORY, test), 'utf8').includes(name.split(' or ')[0]!), `${test}: ${name}`)
    })
})

describe('what docs/frameworks.md shows', () => {
  const DIRECTORIES: Readonly<Record<string, readonly string[]>> = {
    Frameworks: ['common'],
    'Next.js': ['next'],
    Nuxt: ['nuxt'],
    SvelteKit: ['sveltekit'],
    Astro: ['astro'],
    'React Router': ['react-router'],
    'NestJS, Fastify, Hono': ['nest', 'fastify', 'hono'],
  }
  const sections = readFileSync(join(REPOSITORY, 'docs/frameworks.md'), 'utf8').split(/^##? /m)
  const blocks = sections.flatMap((section) => {
    const title = section.slice(0, section.indexOf('\n'))
    return [...section.matchAll(/^```[jt]s\n\/\/ (\S+)\n([\s\S]*?)^```$/gm)].map(
      ([, file, code]) => [title, file!, code!] as const,
    )
  })

  it('are files of every framework of the table', () => {
    const titles = new Set(blocks.map(([title]) => title))
    assert.deepEqual([...titles].sort(), Object.keys(DIRECTORIES).sort())
  })

  for (const [title, file, code] of blocks)
    it(`is what is tried: ${file} of ${title}`, () => {
      const examples = (DIRECTORIES[title] ?? []).map((each) => join(REPOSITORY, 'tests/compat/frameworks', each, file))
      const found = examples.filter((each) => existsSync(each))
      assert.ok(found.length > 0)
      for (const each of found) assert.equal(readFileSync(each, 'utf8'), code)
    })
})
