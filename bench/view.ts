import { spawn } from 'node:child_process'
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import type { CDPSession, Page } from 'playwright-core'
import { startChromium } from '../scripts/start-chromium.mjs'
import { type Measured, median } from './measure.ts'
import { largeObservatory } from './observatory.ts'

const DIST = join(import.meta.dirname, '../packages/mappa-cli/dist')

/** The page of `mappa view`: how soon it shows, and how much each touch of it costs. */
export interface ViewMeasured {
  readonly rows: readonly Measured[]
  /** Script of one interaction, the median of many, in milliseconds. */
  readonly interaction: number
  /** From opening the page to 300 settings in 5 stages, in milliseconds. */
  readonly filled: number
  /** From saving a file to seeing its new value, in milliseconds. */
  readonly live: number
  /** The script of the page, compressed, in kB. */
  readonly script: number
}

/** Measures the page with 300 settings in 5 stages. */
export async function benchView(runs: number): Promise<ViewMeasured> {
  const { root } = largeObservatory(300)
  const browser = await startChromium()
  const command = spawn(process.execPath, [join(DIST, 'main.js'), 'view'], { cwd: root })
  try {
    let link = await new Promise<string>((resolve) => {
      command.stdout.on('data', (text) => {
        const found = /http:\S+/.exec(String(text))
        if (found !== null) resolve(found[0])
      })
    })
    const paints = { page: [] as number[], empty: [] as number[] }
    const filled: number[] = []
    let interaction = 0
    let live = 0
    for (let run = -2; run < runs; run++) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      await page.goto(new URL('/none', link).href)
      const empty = await firstPaint(page)
      await page.addInitScript(NOTE_TABLE)
      await page.goto(link)
      await page.waitForSelector('.settings')
      const full = await firstPaint(page)
      if (run >= 0) {
        paints.page.push(full)
        paints.empty.push(empty)
        filled.push(await page.evaluate<number>('window.shownAt'))
      }
      link = await newLink(page)
      if (run === runs - 1) {
        interaction = await interactions(page)
        live = await liveUpdate(page, root)
      }
      await page.close()
    }
    const ratios = paints.page.map((each, at) => each / paints.empty[at]!)
    const row: Measured = {
      what: 'first paint of the page / of an empty answer of the same server',
      subject: median(paints.page),
      base: median(paints.empty),
      paired: median(ratios),
      runs,
      limit: 2,
    }
    const script = gzipSync(readFileSync(join(DIST, 'web/assets/index.js'))).length / 1000
    return { rows: [row], interaction, filled: median(filled), live, script }
  } finally {
    command.kill()
    await browser.close()
    rmSync(root, { recursive: true, force: true })
  }
}

const NOTE_TABLE = `new MutationObserver(() => {
  if (document.querySelector('.settings tbody')) window.shownAt ??= performance.now()
}).observe(document, { childList: true, subtree: true })`

function firstPaint(page: Page): Promise<number> {
  return page.evaluate<number>(`new Promise((resolve) => {
    const look = () => {
      const paint = performance.getEntriesByType('paint').at(-1)
      if (paint) resolve(paint.startTime)
      else setTimeout(look, 5)
    }
    look()
  })`)
}

async function newLink(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Another window' }).click()
  const link = await page.getByRole('textbox', { name: 'Link' }).inputValue()
  await page.getByRole('button', { name: 'Close' }).click()
  await page.getByRole('dialog').waitFor({ state: 'detached' })
  return link
}

/** The median of what the script of single interactions takes: typing, filters, cells, keys. */
async function interactions(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page)
  await session.send('Performance.enable')
  const took: number[] = []
  const measure = async (work: () => Promise<unknown>): Promise<void> => {
    const before = await scriptTime(session)
    await work()
    await page.evaluate('new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve, 30)))')
    took.push((await scriptTime(session)) - before)
  }
  const search = page.getByRole('searchbox')
  for (let round = 0; round < 4; round++) {
    for (const letter of 'DOME') await measure(() => search.press(letter))
    await measure(() => search.fill(''))
    await measure(() => page.getByRole('button', { name: /^Problems/ }).click())
    await measure(() => page.getByRole('button', { name: /^Problems/ }).click())
    await measure(() => page.getByRole('combobox').first().selectOption('production'))
    await measure(() => page.getByRole('combobox').first().selectOption(''))
    await measure(() => page.getByRole('gridcell').nth(round).click())
    for (const key of ['ArrowDown', 'ArrowRight', 'End']) await measure(() => page.keyboard.press(key))
    await measure(() =>
      page
        .getByRole('gridcell')
        .nth(round + 9)
        .click(),
    )
    await measure(() => page.getByRole('button', { name: 'Close the story' }).click())
  }
  return median(took)
}

async function scriptTime(session: CDPSession): Promise<number> {
  const { metrics } = await session.send('Performance.getMetrics')
  return metrics.find(({ name }) => name === 'ScriptDuration')!.value * 1000
}

async function liveUpdate(page: Page, root: string): Promise<number> {
  const file = join(root, '.env.winter')
  const text = readFileSync(file, 'utf8')
  // By name and role it would be found as well, which takes longer than what is measured.
  const cell = `document.querySelector('[data-setting="night.part0"][data-stage="winter"]')`
  const shown = page.evaluate(`new Promise((resolve) => {
    const look = () => (${cell}.textContent.includes('3999') ? resolve() : requestAnimationFrame(look))
    look()
  })`)
  const start = performance.now()
  writeFileSync(file, text.replace(/^NIGHT_PART0=.*$/m, 'NIGHT_PART0=3999'))
  await shown
  return performance.now() - start
}
