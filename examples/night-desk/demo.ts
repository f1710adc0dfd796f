import { spawnSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { runExample } from './simulated/run-example.ts'

const VITE = join(import.meta.dirname, '../../node_modules/vite/bin/vite.js')

function title(text: string): void {
  console.log(`\n== ${text}\n`)
}

/** Runs Vite where somebody would, and ends the demo where it does not end as it should. */
function vite(words: readonly string[], status: number): void {
  console.log(`$ vite ${words.join(' ')}`)
  const outcome = spawnSync(process.execPath, [VITE, ...words], { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] })
  if (outcome.status !== status) throw new Error(`vite ${words[0]} ended with ${outcome.status}, not with ${status}`)
}

/** The element of a page that carries its runtime settings. */
function payloadIn(html: string): string {
  return /<script type="application\/json".*<\/script>/.exec(html)![0]
}

const running = runExample()
const { root } = running
try {
  title('The page for visitors: a copy of examples/night-desk, built for each stage')
  for (const stage of ['development', 'staging', 'production']) vite(['build', '--mode', stage], 0)

  title('The build for production, served as staging and as production')
  await running.buildServer()
  for (const stage of ['staging', 'production']) {
    const desk = await running.serve(stage)
    console.log(`${desk.url}\n  ${payloadIn(await (await fetch(desk.url)).text())}`)
    await desk.stop()
  }

  title('The same build for a host of plain files, as staging')
  const fill = spawnSync(process.execPath, ['--import', 'tsx', 'src/fill-static.ts'], {
    cwd: root,
    env: { ...process.env, MAPPA_STAGE: 'staging' },
    encoding: 'utf8',
  })
  if (fill.status !== 0) throw new Error(fill.stderr)
  console.log(`${fill.stdout}  ${payloadIn(readFileSync(join(root, 'dist/page/index.html'), 'utf8'))}`)

  title('Page code that reaches the key of the desk')
  const form = join(root, 'src/page/booking-form.tsx')
  const before = readFileSync(form, 'utf8')
  writeFileSync(
    form,
    `import { slipFor } from '../server/slips.ts'\n${before.replace("'The desk is", "slipFor('') + 'The desk is")}`,
  )
  vite(['build'], 1)

  title('And the key itself, in two pieces')
  const key = /DESK_KEY=(.*)/.exec(readFileSync(join(root, '.env.production.local'), 'utf8'))![1]!
  writeFileSync(form, before.replace("'The desk is", `'${key.slice(0, 20)}' + '${key.slice(20)}' + 'The desk is`))
  vite(['build'], 1)
} finally {
  running.end()
}
console.log('\nThat was all. Nothing is left behind.')
