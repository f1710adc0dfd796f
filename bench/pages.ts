import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inTurn, type Measured, runNode } from './measure.ts'

const REPOSITORY = join(import.meta.dirname, '../')
const VITE = join(REPOSITORY, 'node_modules/vite/bin/vite.js')

/** A page of 300 modules that reads two public settings, beside ten private ones. */
function writePage(folder: string): void {
  mkdirSync(join(folder, 'src'))
  const lines = (i: number) =>
    Array.from(
      { length: 60 },
      (_, line) =>
        `export const star${line} = (night: number): string => \`\${night * ${line}} of ${i}, ${'x'.repeat(line % 20)}\``,
    )
  for (let i = 0; i < 300; i++) {
    const next = i % 10 === 0 ? `export * as part${i} from './part${i + 1}.ts'\n` : ''
    writeFileSync(join(folder, `src/part${i}.ts`), `${i < 299 ? next : ''}${lines(i).join('\n')}\n`)
  }
  const imports = Array.from({ length: 300 }, (_, i) => `import * as part${i} from './part${i}.ts'`)
  const uses = Array.from({ length: 300 }, (_, i) => `...Object.values(part${i})`)
  const rest = `console.log([${uses.join(',')}].length)\n`
  const head = `${imports.join('\n')}\n`
  writeFileSync(
    join(folder, 'src/main.ts'),
    `import { settings } from 'virtual:mappa/browser'\n${head}document.title = settings.visitor.starMapUrl + settings.visitor.places\n${rest}`,
  )
  writeFileSync(
    join(folder, 'src/plain.ts'),
    `${head}document.title = 'https://maps.fernhollow.example/tonight' + 12\n${rest}`,
  )
  for (const [page, entry] of [
    ['with', 'main'],
    ['without', 'plain'],
  ]) {
    mkdirSync(join(folder, page!))
    writeFileSync(
      join(folder, page!, 'index.html'),
      `<!doctype html><html><head></head><script type="module" src="../src/${entry}.ts"></script></html>`,
    )
  }
  const secrets = Array.from(
    { length: 10 },
    (_, i) => `mirror${i}: { key: setting.string('Key of mirror ${i}', { secret: true }) },`,
  )
  writeFileSync(
    join(folder, 'settings.definition.ts'),
    `import { defineSettings, setting } from 'mappa'
export default defineSettings({
  ${secrets.join('\n  ')}
  visitor: {
    starMapUrl: setting.url('Where visitors find the star map', { public: true }),
    places: setting.integer('Visitors in one night', { public: true, default: 12 }),
  },
})
`,
  )
  const keys = Array.from({ length: 10 }, (_, i) => `MIRROR${i}_KEY=made-up-key-of-mirror-${i}-for-this-measurement\n`)
  for (const stage of ['development', 'production']) {
    writeFileSync(
      join(folder, `.env.${stage}.local`),
      `${keys.join('')}VISITOR_STAR_MAP_URL=https://maps.fernhollow.example/tonight\n`,
    )
  }
  writeFileSync(join(folder, 'package.json'), '{ "type": "module" }')
  const config = (page: string, plugins: string) =>
    `${plugins === '' ? '' : "import mappa from 'mappa/vite'\n"}export default { root: '${page}', envDir: false, plugins: [${plugins}] }\n`
  writeFileSync(join(folder, 'with.config.js'), config('with', 'mappa()'))
  writeFileSync(join(folder, 'without.config.js'), config('without', ''))
  // What a developer waits for: until the server listens.
  const serve = (page: string) =>
    `import { createServer } from 'vite'
const server = await createServer({ configFile: '${page}.config.js', server: { port: 0 } })
await server.listen()
process.exit(0)
`
  for (const page of ['with', 'without']) writeFileSync(join(folder, `${page}.serve.mjs`), serve(page))
}

/** Building a page of 300 modules and starting its development server, each with the plugin over without it. */
export function benchPages(runs: number): Measured[] {
  const folder = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  try {
    writePage(folder)
    mkdirSync(join(folder, 'node_modules'))
    symlinkSync(REPOSITORY, join(folder, 'node_modules/mappa'))
    symlinkSync(join(REPOSITORY, 'node_modules/vite'), join(folder, 'node_modules/vite'))
    const build = (page: string) => () => runNode([VITE, 'build', '--config', `${page}.config.js`], { cwd: folder })
    const serve = (page: string) => () => runNode([`${page}.serve.mjs`], { cwd: folder })
    return [
      {
        what: 'building 300 modules with the plugin / without',
        ...inTurn(runs, build('with'), build('without')),
        runs,
        limit: 1.05,
      },
      {
        what: 'starting the development server with the plugin / without',
        ...inTurn(runs, serve('with'), serve('without')),
        runs,
        limit: 1.1,
      },
    ]
  } finally {
    if (!process.env.KEEP) rmSync(folder, { recursive: true })
  }
}
