import assert from 'node:assert/strict'
import { existsSync, readFileSync, symlinkSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { makeProject, REPOSITORY, run } from '@mappa/tests/support/project'

const PACKAGE = '{ "type": "module", "devDependencies": { "vite": "*" } }'
const PAGE = '<!doctype html><title>%VITE_TITLE%</title><script type="module" src="/src/main.js"></script>'

/** A configuration, and the same with the plugin in it; `null` where it has to be put there by hand. */
const CONFIGURATIONS: readonly (readonly [what: string, before: string, after: string | null])[] = [
  [
    'an object',
    "import { defineConfig } from 'vite'\nexport default defineConfig({ base: '/x/' })\n",
    "import { defineConfig } from 'vite'\nimport mappa from 'mappa-settings/vite'\nexport default defineConfig({ plugins: [mappa()], base: '/x/' })\n",
  ],
  [
    'an empty object',
    'export default {}\n',
    "import mappa from 'mappa-settings/vite'\n\nexport default { plugins: [mappa()] }\n",
  ],
  [
    'other plugins',
    'import star from "./star.js";\nexport default { plugins: [star()] };\n',
    'import star from "./star.js";\nimport mappa from "mappa-settings/vite";\nexport default { plugins: [mappa(), star()] };\n',
  ],
  [
    'other plugins, each on its line',
    "import star from './star.js'\nexport default {\n  plugins: [\n    star(),\n  ],\n}\n",
    "import star from './star.js'\nimport mappa from 'mappa-settings/vite'\nexport default {\n  plugins: [\n    mappa(),\n    star(),\n  ],\n}\n",
  ],
  [
    'a function that returns it',
    'export default ({ mode }) => {\n  const base = mode\n  return { base, plugins: [].filter(Boolean) }\n}\n',
    "import mappa from 'mappa-settings/vite'\n\nexport default ({ mode }) => {\n  const base = mode\n  return { base, plugins: [mappa()].filter(Boolean) }\n}\n",
  ],
  [
    'an object with a name',
    'const config = { plugins: [] }\nexport default config\n',
    "import mappa from 'mappa-settings/vite'\n\nconst config = { plugins: [mappa()] }\nexport default config\n",
  ],
  ['plugins that are worked out', 'export default { plugins: listPlugins() }\n', null],
  ['two ways to end', 'export default ({ mode }) => {\n  if (mode) return {}\n  return { plugins: [] }\n}\n', null],
  ['another thing of the name', 'const mappa = 1\nexport default { base: mappa, plugins: [] }\n', null],
  ['what is merged', 'export default mergeConfig(base, { plugins: [] })\n', null],
]

describe('mappa init in a project of pages', () => {
  for (const [what, before, after] of CONFIGURATIONS)
    it(`${after === null ? 'leaves to its owner' : 'adds the plugin to'} ${what}`, (context) => {
      const files = { 'package.json': PACKAGE, 'index.html': '<p>Night</p>', 'vite.config.js': before }
      const { root, mappa } = makeProject(context, files)
      const { stdout } = mappa(['init', '--yes'])
      const text = readFileSync(join(root, 'vite.config.js'), 'utf8')
      assert.equal(text, after ?? before)
      assert.equal(stdout.includes('Add the plugin to vite.config.js'), after === null)
      mappa(['init', '--yes'])
      assert.equal(readFileSync(join(root, 'vite.config.js'), 'utf8'), text)
    })

  it('makes pages and components go on as they are, with checked values', (context) => {
    const { root, mappa } = makeProject(context, {
      'package.json': PACKAGE,
      'index.html': PAGE,
      'src/main.js': 'document.title += import.meta.env.VITE_STAR_MAP_URL\n',
      'src/Desk.vue': '<script setup>const text = import.meta.env.VITE_BANNER ?? "fog"</script>\n',
      '.env': 'VITE_TITLE="Night desk"\nVITE_STAR_MAP_URL=https://maps.fernhollow.example\n',
    })
    symlinkSync(join(REPOSITORY, 'node_modules/vite'), join(root, 'node_modules/vite'))
    const { status, stdout } = mappa(['init', '--yes'])
    assert.equal(status, 0, stdout)
    assert.ok(!existsSync(join(root, 'src/settings.mjs')), 'no module for servers')
    assert.match(stdout, /In pages: import \{ settings \} from 'virtual:mappa\/browser'/)
    const definition = readFileSync(join(root, 'src/settings.definition.mjs'), 'utf8')
    for (const part of [
      "title: setting.string('Title', { public: true, name: 'VITE_TITLE' })",
      "mapUrl: setting.url('Star map URL', { public: true, name: 'VITE_STAR_MAP_URL' })",
      "banner: setting.string('Banner', { public: true, default: 'fog', name: 'VITE_BANNER' })",
    ])
      assert.ok(definition.includes(part), `${part}\n${definition}`)
    const environment = { PATH: process.env.PATH ?? '', MAPPA_STAGE: 'production' }
    const built = run(process.execPath, ['node_modules/vite/bin/vite.js', 'build'], root, environment)
    assert.equal(built.status, 0, built.stderr)
    assert.match(readFileSync(join(root, 'dist/index.html'), 'utf8'), /<title>Night desk<\/title>/)
  })

  it('writes a configuration where there is none, and none for a program without pages', (context) => {
    const page = makeProject(context, { 'package.json': PACKAGE, 'index.html': '<p>Night</p>', 'tsconfig.json': '{}' })
    page.mappa(['init', '--yes'])
    assert.match(readFileSync(join(page.root, 'vite.config.ts'), 'utf8'), /plugins: \[mappa\(\)\]/)
    const program = makeProject(context, { 'package.json': PACKAGE, 'a.js': 'use(process.env.DOME_URL)\n' })
    program.mappa(['init', '--yes'])
    assert.ok(!existsSync(join(program.root, 'vite.config.mjs')))
  })
})

/** A framework by its example, the files that init writes for it, and what it says in the end. */
const FRAMEWORKS: Readonly<Record<string, readonly [files: readonly string[], told: RegExp]>> = {
  next: [['settings.ts', 'instrumentation.ts'], /from '\.\/settings'[\s\S]*next\.config: [\s\S]*mappa guard \.next/],
  nuxt: [['server/settings.ts', 'server/plugins/settings.ts'], /In nuxt\.config: [\s\S]*nitro: \{ replace/],
  sveltekit: [['src/hooks.ts', 'vite.config.ts'], /from 'virtual:mappa\/server'[\s\S]*In pages: /],
  astro: [[], /In astro\.config: import mappa/],
  'react-router': [['app/settings.server.ts', 'vite.config.ts'], /from '\.\/app\/settings\.server'/],
}

/** Code without what people write in one way or another. */
const normalize = (code: string) =>
  code
    .replace(/(from '[^']*|import\('[^']*|import '[^']*)\.ts'/g, "$1'")
    .replace('{ stage: process.env.MAPPA_STAGE }', '')
    .replace(/,?\s+/g, '')
    .replace(/(import\{\w+\}from'vite')(importmappafrom'mappa-settings\/vite')/, '$2$1')

describe('mappa init in a project of a framework writes what its guide shows', () => {
  for (const [example, [files, told]] of Object.entries(FRAMEWORKS))
    it(example, (context) => {
      const directory = join(REPOSITORY, 'tests/compat/frameworks', example)
      const read = (file: string) => readFileSync(join(directory, file), 'utf8')
      const start: Record<string, string> = { 'package.json': read('package.json'), 'tsconfig.json': '{}' }
      if (files.includes('vite.config.ts'))
        start['vite.config.ts'] = read('vite.config.ts')
          .replace(/.*mappa-settings.*\n/, '')
          .replace(/mappa\(.*?\), /, '')
      const page = makeProject(context, start)
      const { status, stdout } = page.mappa(['init', '--yes'])
      assert.equal(status, 0, stdout)
      assert.match(stdout, told)
      for (const file of files)
        assert.equal(normalize(readFileSync(join(page.root, file), 'utf8')), normalize(read(file)), file)
      // A second time, nothing is changed.
      assert.match(page.mappa(['init', '--yes']).stdout, /already set up/)
    })
})
