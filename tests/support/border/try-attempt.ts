import assert from 'node:assert/strict'
import { existsSync, mkdirSync, readFileSync, symlinkSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { TestContext } from 'node:test'
import type { InlineConfig } from 'vite'
import { filesIn, makePage, PAGE_FILES, type PageProject } from '../page-project.ts'
import { serve } from '../serving.ts'
import { type Attempt, ENV, LONG, MOUNTED, SHORT } from './attempts.ts'

export type Vite = typeof import('vite')
type Context = Pick<TestContext, 'after'>

/** Refuses text that holds a private value, also in base64. */
function assertSafe(text: string, where: string): void {
  for (const secret of [SHORT, LONG, MOUNTED, 'signs booking slips']) {
    assert.ok(!text.includes(secret), `${where} holds ${secret}`)
    for (const offset of [0, 1, 2]) {
      const whole = Buffer.from(`${'x'.repeat(offset)}${secret}`).toString('base64')
      const inBase64 = whole.slice(offset === 0 ? 0 : 4, -4)
      assert.ok(inBase64.length < 6 || !text.includes(inBase64), `${where} holds ${secret} in base64`)
    }
  }
}

/** Makes the page of an attempt, with its links. */
export function pageOf(context: Context, { files = {}, links = {}, main = '' }: Attempt, vite: Vite): PageProject {
  const page = makePage(context, { ...ENV, 'src/main.ts': `${PAGE_FILES['src/main.ts']}${main}\n`, ...files }, vite)
  for (const [name, target] of Object.entries(links)) {
    mkdirSync(dirname(join(page.root, name)), { recursive: true })
    symlinkSync(target, join(page.root, name))
  }
  page.write('src/main.ts', readFileSync(join(page.root, 'src/main.ts'), 'utf8').replace('<root>', page.root))
  return page
}

async function assertBuildRefused(
  page: PageProject,
  { built, options = {} }: Attempt,
  config: InlineConfig,
): Promise<void> {
  if (built === undefined) return
  await assert.rejects(page.build(config, options), (error: Error) => {
    assert.match(error.message, new RegExp(`  (${built})\n`))
    assertSafe(error.message, 'the message')
    return true
  })
  if (existsSync(join(page.root, 'dist')))
    assertSafe(Object.values(filesIn(join(page.root, 'dist'))).join('\n'), 'dist')
}

async function assertNotServed(
  context: Context,
  { root }: PageProject,
  { served, closed = [], options = {} }: Attempt,
  config: InlineConfig,
  vite: Vite,
): Promise<void> {
  if (served === undefined && closed.length === 0) return
  const seen = await serve(context, root, { config, options, urls: closed, vite })
  assertSafe(seen.bodies, 'an answer')
  assertSafe(seen.log, 'the log')
  for (const url of closed) assert.equal(seen.statuses.get(url.replace('<root>', root)), 403, url)
  if (served === undefined) return
  assert.equal(seen.page.status, 500)
  assert.ok(seen.page.text.includes(served), seen.page.text)
}

/** A configuration with absolute paths for its entries, which older versions ask for. */
function placed(config: InlineConfig, root: string): InlineConfig {
  const input = config.build?.rollupOptions?.input
  if (input === undefined) return config
  const whole = [input].flat().map((each) => String(each).replace('<root>', root))
  return { ...config, build: { ...config.build, rollupOptions: { input: whole } } }
}

/**
 * Builds the page of an attempt and serves it, and looks at everything that is handed out.
 *
 * @throws {AssertionError} if that has anything in it that no page may have, or nothing says so
 */
export async function tryAttempt(context: Context, attempt: Attempt, vite: Vite): Promise<void> {
  const { config: given = {}, options = {}, refused } = attempt
  const page = pageOf(context, attempt, vite)
  const config = placed(given, page.root)
  await assertBuildRefused(page, attempt, config)
  // Older versions have no such mode.
  if (refused !== undefined && vite.version.startsWith('8.'))
    await assert.rejects(serve(context, page.root, { config, options, vite }), new RegExp(`  ${refused}\n`))
  await assertNotServed(context, page, attempt, config, vite)
}
