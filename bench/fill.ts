import { randomBytes } from 'node:crypto'
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { listEncodings } from '@mappa/core/values/encodings'
import { type MaskedText, Masker } from '@mappa/search/mask/masker'
import { fillStages } from '../packages/mappa-cli/src/analysis/fill/fill-stages.ts'
import { readTemplateFile } from '../packages/mappa-cli/src/analysis/fill/read-template.ts'
import { type Output, writeOutputs } from '../packages/mappa-cli/src/project/outputs.ts'
import { Project } from '../packages/mappa-cli/src/project/project.ts'
import { type Measured, median } from './measure.ts'

const COUNT = 1000

/** Filling 1,000 templates of 10 kB, over copying them. */
export async function benchFill(runs: number): Promise<Measured[]> {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  const before = process.cwd()
  try {
    process.chdir(directory)
    const settings = {
      dome: { url: { kind: 'url', description: 'Address', default: 'https://dome.fernhollow.example' } },
    }
    writeFileSync('settings.definition.json', JSON.stringify({ settings }))
    mkdirSync('templates')
    const names = Array.from({ length: COUNT }, (_, index) => `templates/${index}.conf`)
    const line = 'location /night/ { proxy_pass $upstream; proxy_set_header Host $host; } # as it was before\n'
    const text = `${line.repeat(50)}server ${'${DOME_URL}'};\n`.repeat(3).slice(0, 10_000)
    for (const name of names) writeFileSync(name, text)
    const project = await Project.open({ root: directory })
    const fill = async (): Promise<void> => {
      const templates = names.map((name) => readTemplateFile(name))
      const inspection = project.inspect(project.stage('staging'))
      const { files } = fillStages(templates, [inspection], (name) => name.replace('templates', 'filled'), false)
      const outputs = files.map(
        ({ output, text }): Output => ({ file: output, text, ownerOnly: false, ignoreRule: null }),
      )
      await writeOutputs(directory, outputs, false)
    }
    const copy = (): void => {
      mkdirSync('copied', { recursive: true })
      for (const name of names) writeFileSync(name.replace('templates', 'copied'), readFileSync(name, 'utf8'))
    }
    const times = { subject: [] as number[], base: [] as number[] }
    for (let run = -1; run < runs; run++) {
      for (const [key, work] of [
        ['subject', fill],
        ['base', copy],
      ] as const) {
        for (const made of ['filled', 'copied']) rmSync(made, { recursive: true, force: true })
        const start = performance.now()
        await work()
        if (run >= 0) times[key].push(performance.now() - start)
      }
    }
    const paired = median(times.subject.map((took, run) => took / times.base[run]!))
    const what = 'filling 1,000 templates of 10 kB / copying them'
    return [{ what, subject: median(times.subject), base: median(times.base), paired, runs, limit: 3 }]
  } finally {
    process.chdir(before)
    rmSync(directory, { recursive: true })
  }
}

/** How many megabytes a second go through `--mask-output` with 20 secrets, in 64 KiB pieces of a log. */
export function benchMask(runs: number): number {
  const texts = Array.from({ length: 20 }, () => randomBytes(24).toString('base64url')).flatMap(
    (secret): MaskedText[] => listEncodings(secret).map(({ text }) => ({ text, mask: '(secret)' })),
  )
  const masker = new Masker(texts)
  const line = '2026-11-26T04:00:00Z normal dome-api turned the dome to 135 degrees in 1200 ms {"slit":"open"}\n'
  const piece = Buffer.from(line.repeat(1000)).subarray(0, 1 << 16)
  const speeds: number[] = []
  for (let run = -2; run < runs; run++) {
    const start = performance.now()
    for (let count = 0; count < 500; count++) masker.write(piece)
    const seconds = (performance.now() - start) / 1000
    if (run >= 0) speeds.push((500 * piece.length) / 1e6 / seconds)
  }
  return median(speeds)
}
