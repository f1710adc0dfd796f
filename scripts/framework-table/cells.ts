import assert from 'node:assert/strict'
import { createHmac } from 'node:crypto'
import { type Installed, keyOf, mapOf, STAGES } from './installed.ts'

/** What is true of a framework; a text says why it does not apply. */
export type Cell = (installed: Installed) => Promise<string | undefined>

const slipOf = (stage: string) => createHmac('sha256', keyOf(stage)).update('tonight').digest('hex').slice(0, 8)

/** What a page shows in an element. */
function read(html: string | null, id: string): string | undefined {
  // Frameworks mark where text was put in.
  const plain = html?.replace(/<!--.*?-->/g, '')
  return new RegExp(`<p id="${id}"[^>]*>([^<]*)</p>`).exec(plain ?? '')?.[1]
}

function mustShow(html: string | null, stage: string, said: string): void {
  const seen = ['map', 'notice', 'slip'].map((id) => read(html, id))
  assert.deepEqual(seen, [mapOf(stage), `Rehearsal of ${stage}`, slipOf(stage)], said)
}

function mustBuild(installed: Installed, stage: string): void {
  const { status, said } = installed.build(stage)
  assert.equal(status, 0, said)
}

/** Starts it, and expects that it ends with 78 and a report before it has answered anything. */
async function mustRefuse(installed: Installed, environment: Record<string, string>, told: RegExp): Promise<void> {
  const running = await installed.start(environment)
  const answer = await running.ask('/')
  const { status, said } = await running.end()
  assert.match(said, told)
  assert.equal(status, 78, said)
  // One that listens before it is ready may have taken the request, and let it go.
  assert.ok(answer === null || answer === '', answer ?? '')
}

async function tryStage(installed: Installed): Promise<undefined> {
  for (const stage of STAGES) {
    mustBuild(installed, stage)
    const running = await installed.start({ MAPPA_STAGE: stage })
    const html = await running.ask('/')
    mustShow(html, stage, (await running.end()).said)
  }
  // What was built last is for production.
  if (!installed.target.isBuilt) return mustRefuse(installed, {}, /stage-required/) as Promise<undefined>
  const running = await installed.start()
  const html = await running.ask('/')
  mustShow(html, 'production', (await running.end()).said)
  await mustRefuse(installed, { MAPPA_STAGE: 'staging' }, /stage-not-of-build/)
}

async function tryLayers(installed: Installed): Promise<undefined> {
  installed.write('.env', 'VISITOR_NOTICE="of all stages"\n')
  installed.write(
    '.env.local',
    `VISITOR_NOTICE="of this machine"\nVISITOR_MAP=${mapOf('nothing')}\nDESK_KEY=${keyOf('nothing')}\n`,
  )
  mustBuild(installed, 'staging')
  const running = await installed.start({ MAPPA_STAGE: 'staging' })
  const html = await running.ask('/')
  const { said } = await running.end()
  const shown = installed.run('npx', ['mappa', 'show', 'VISITOR_NOTICE', '--stage', 'staging', '--json'])
  assert.match(shown.said, new RegExp(`"value": "${read(html, 'notice')}"`), said)
  mustShow(html, 'staging', said)
}

async function tryRefusal(installed: Installed): Promise<undefined> {
  mustBuild(installed, 'production')
  installed.remove('.env.production.local')
  await mustRefuse(installed, { MAPPA_STAGE: 'production' }, /DESK_KEY is not set/)
}

/** Changes files so that something private would go out, and expects that the build fails. */
function mustNotBuild(installed: Installed, files: Readonly<Record<string, string>>, told: RegExp): undefined {
  for (const [file, text] of Object.entries(files)) installed.write(file, text)
  const { status, said } = installed.build('production')
  assert.match(said, told)
  assert.notEqual(status, 0, said)
  assert.ok(!said.includes(keyOf('production')), 'the key is told')
}

async function tryBorder(installed: Installed): Promise<string | undefined> {
  const { border } = installed.target
  if (typeof border === 'string') return border
  return mustNotBuild(installed, border, /mappa|server/i)
}

async function tryPrerender(installed: Installed): Promise<string | undefined> {
  const { prerender } = installed.target
  if (typeof prerender === 'string') return prerender
  return mustNotBuild(installed, prerender, /The value of DESK_KEY/)
}

async function tryPayload(installed: Installed): Promise<undefined> {
  const { path, files } = installed.target.payload
  for (const [file, text] of Object.entries(files)) installed.write(file, text)
  mustBuild(installed, 'production')
  const running = await installed.start({ MAPPA_STAGE: 'production' })
  const answer = (await running.ask(path)) ?? ''
  const { said } = await running.end()
  assert.ok(!`${answer}${said}`.includes(keyOf('production')), 'the key is there')
  assert.match(answer, /\(secret, \d+ characters/, said)
}

/** The columns of the table. */
export const CELLS: Readonly<Record<string, Cell>> = {
  stage: tryStage,
  layers: tryLayers,
  refusal: tryRefusal,
  border: tryBorder,
  prerender: tryPrerender,
  payload: tryPayload,
}
