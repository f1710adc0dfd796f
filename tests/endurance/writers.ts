import assert from 'node:assert/strict'
import { type ChildProcess, spawn } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { EnvDocument } from 'mappa-settings/envfile'
import { COMMAND, makeProject } from '../support/project.ts'
import { type LongRun, makeRandom, withCleanup } from './long-run.ts'

const set = (root: string, ...words: readonly string[]) =>
  spawn(process.execPath, [COMMAND, 'set', ...words], { cwd: root, stdio: 'ignore' })
const ended = (child: ChildProcess) => new Promise<number | null>((resolve) => child.on('close', resolve))
const definitionOf = (names: readonly string[]) =>
  JSON.stringify({
    settings: Object.fromEntries(names.map((name) => [name, { kind: 'string', description: 'A text' }])),
  })

/** Writers that are killed leave a file that is old or new, and nothing that keeps the next one from writing. */
export const killedWriters: LongRun = {
  name: 'killed-writers',
  promise: 'a writer that is killed leaves its file old or new',
  short: 8,
  long: 1000,
  run: (count, seed) =>
    withCleanup(async (context) => {
      const random = makeRandom(seed)
      const long = 'x'.repeat(60_000)
      const project = makeProject(context, {
        'settings.definition.json': definitionOf(['dome', 'sky']),
        '.env': `SKY=${long}\n`,
      })
      const read = () => readFileSync(join(project.root, '.env'), 'utf8')
      const texts = new Set([read()])
      let kills = 0
      for (let at = 0; at < count; at++) {
        const child = set(project.root, 'dome', `${at}`)
        const before = read()
        texts.clear()
        texts.add(before)
        texts.add(String(EnvDocument.from(before).set('DOME', `${at}`)))
        const timer = setTimeout(() => child.kill('SIGKILL'), random.below(260))
        if ((await ended(child)) === null) kills++
        clearTimeout(timer)
        assert.ok(texts.has(read()), `after ${at} writers the file is ${read().length} characters long`)
      }
      assert.ok(kills > 0, 'no writer was killed in time')
      assert.equal(await ended(set(project.root, 'dome', 'last')), 0)
      assert.equal(EnvDocument.from(read()).get('DOME')?.value, 'last')
      assert.deepEqual(
        readdirSync(project.root).filter((file) => /draft|lock/.test(file)),
        [],
      )
    }),
}

/** Writers of one file wait for each other, and none loses what another wrote. */
export const manyWriters: LongRun = {
  name: 'many-writers',
  promise: 'one of many writers of a file loses nothing',
  short: 8,
  long: 200,
  run: (count) =>
    withCleanup(async (context) => {
      const names = Array.from({ length: count }, (_, index) => `place${index}`)
      const project = makeProject(context, { 'settings.definition.json': definitionOf(names) })
      const codes = await Promise.all(names.map((name, index) => ended(set(project.root, name, String(index)))))
      assert.deepEqual(
        codes,
        names.map(() => 0),
      )
      const file = EnvDocument.from(readFileSync(join(project.root, '.env'), 'utf8'))
      for (const [index, name] of names.entries())
        assert.equal(file.get(name.toUpperCase())?.value, String(index), name)
    }),
}
