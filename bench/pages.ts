import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inTurn, type Measured, runNode } from './measure.ts'

const REPOSITORY = join(import.meta.dirname, '../')
const VITE = join(REPOSITORY, 'node_modules/vite/bin/vite.js')

/** A component of a page with a well-known library, as people write them. */
function component(i: number): string {
  const rows = Array.from(
    { length: 24 },
    (_, row) =>
      `      <li key="${row}" className={night > ${row} ? 'row open' : 'row'}>{stars.filter((star) => star.height > ${row}).map((star) => star.name).join(', ') || 'nothing above ${row} degrees for ${i}'}</li>`,
  )
  return `import { useMemo, useState } from 'react'
interface Star { readonly name: string; readonly height: number }
export interface Part${i}Props { readonly stars: readonly Star[]; readonly from?: number }
/** The sky of part ${i}. */
export function Part${i}({ stars, from = ${i} }: Part${i}Props) {
  const [night, setNight] = useState(from)
  const highest = useMemo(() => stars.reduce((best, star) => Math.max(best, star.height), 0), [stars])
  return (
    <ul onClick={() => setNight(night + highest)}>
${rows.join('\n')}
    </ul>
  )
}
`
}

/** A page of 300 modules that reads two public settings, beside ten private ones, four of them secrets. */
function writePage(directory: string): void {
  mkdirSync(join(directory, 'src'))
  for (let i = 0; i < 300; i++) writeFileSync(join(directory, `src/part${i}.tsx`), component(i))
  const imports = Array.from({ length: 300 }, (_, i) => `import { Part${i} } from './part${i}.tsx'`)
  const uses = Array.from({ length: 300 }, (_, i) => `<Part${i} stars={[]} />`)
  const rest = `createRoot(document.body).render(<>${uses.join('')}</>)\n`
  const head = `import { createRoot } from 'react-dom/client'\n${imports.join('\n')}\n`
  writeFileSync(
    join(directory, 'src/main.tsx'),
    `import { settings } from 'virtual:mappa/browser'\n${head}document.title = settings.visitor.starMapUrl + settings.visitor.places\n${rest}`,
  )
  writeFileSync(
    join(directory, 'src/plain.tsx'),
    `${head}document.title = 'https://maps.fernhollow.example/tonight' + 12\n${rest}`,
  )
  for (const [page, entry] of [
    ['with', 'main'],
    ['without', 'plain'],
  ]) {
    mkdirSync(join(directory, page!))
    writeFileSync(
      join(directory, page!, 'index.html'),
      `<!doctype html><html><head></head><script type="module" src="../src/${entry}.tsx"></script></html>`,
    )
  }
  const mirrors = Array.from({ length: 10 }, (_, i) =>
    i < 4
      ? `mirror${i}: { key: setting.string('Key of mirror ${i}', { secret: true }) },`
      : `mirror${i}: { width: setting.integer('Width of mirror ${i}', { default: 2400 }) },`,
  )
  writeFileSync(
    join(directory, 'settings.definition.ts'),
    `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  ${mirrors.join('\n  ')}
  visitor: {
    starMapUrl: setting.url('Where visitors find the star map', { public: true }),
    places: setting.integer('Visitors in one night', { public: true, default: 12 }),
  },
})
`,
  )
  const keys = Array.from({ length: 4 }, (_, i) => `MIRROR${i}_KEY=made-up-key-of-mirror-${i}-for-this-measurement\n`)
  for (const stage of ['development', 'production']) {
    writeFileSync(
      join(directory, `.env.${stage}.local`),
      `${keys.join('')}VISITOR_STAR_MAP_URL=https://maps.fernhollow.example/tonight\n`,
    )
  }
  writeFileSync(join(directory, 'package.json'), '{ "type": "module" }')
  const config = (page: string, plugins: string) =>
    `${plugins === '' ? '' : "import mappa from 'mappa-settings/vite'\n"}export default { root: '${page}', envDir: false, plugins: [${plugins}] }\n`
  writeFileSync(join(directory, 'with.config.js'), config('with', 'mappa()'))
  writeFileSync(join(directory, 'without.config.js'), config('without', ''))
  // What a developer waits for: until the server listens.
  const serve = (page: string) =>
    `import { createServer } from 'vite'
const server = await createServer({ configFile: '${page}.config.js', server: { port: 0 } })
await server.listen()
process.exit(0)
`
  for (const page of ['with', 'without']) writeFileSync(join(directory, `${page}.serve.mjs`), serve(page))
}

/** Building a page of 300 modules and starting its development server, each with the plugin over without it. */
export function benchPages(runs: number): Measured[] {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  try {
    writePage(directory)
    mkdirSync(join(directory, 'node_modules'))
    symlinkSync(join(REPOSITORY, 'packages/mappa-settings'), join(directory, 'node_modules/mappa-settings'))
    for (const name of ['vite', 'react', 'react-dom', 'scheduler'])
      symlinkSync(join(REPOSITORY, 'node_modules', name), join(directory, 'node_modules', name))
    const build =
      (page: string, ...more: string[]) =>
      () =>
        runNode([VITE, 'build', '--config', `${page}.config.js`, ...more], { cwd: directory })
    const serve = (page: string) => () => runNode([`${page}.serve.mjs`], { cwd: directory })
    return [
      {
        what: 'building 300 modules with the plugin / without',
        ...inTurn(runs, build('with'), build('without')),
        runs,
        limit: 1.05,
      },
      {
        what: 'building 300 modules with source maps, with the plugin / without',
        ...inTurn(runs, build('with', '--sourcemap'), build('without', '--sourcemap')),
        runs,
        limit: 1.15,
      },
      {
        what: 'starting the development server with the plugin / without',
        ...inTurn(runs, serve('with'), serve('without')),
        runs,
        limit: 1.1,
      },
    ]
  } finally {
    if (!process.env.KEEP) rmSync(directory, { recursive: true })
  }
}
