import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import { chmodSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { COMMAND, commandForAll, makeProject, openToAll, run } from '../support/project.ts'
import { type LongRun, withCleanup } from './long-run.ts'

const DEFINITION = JSON.stringify({ settings: { dome: { kind: 'string', description: 'A text' } } })
const CANARY = 'made-up-disk-canary'
type Context = Parameters<typeof makeProject>[0]

/** Disks that are full, directories that can't be written to or are gone: a sentence, and nothing lost. */
export const disks: LongRun = {
  name: 'disks',
  promise: 'a full disk, a read-only directory and a removed one cost no value, and are told in a sentence',
  short: 1,
  long: 25,
  run: async (count) => {
    for (let at = 0; at < count; at++)
      for (const check of [fullDisk, readOnly, removed]) await withCleanup((context) => check(context, at))
  },
}

/** A file system in memory with so many kilobytes; `false` on a machine that does not allow one. */
function mount(directory: string, kilobytes: number): boolean {
  return spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${kilobytes}k`, 'tmpfs', directory]).status === 0
}

function fullDisk(context: Context, turn: number): void {
  const { root } = makeProject(context, { 'disk/.keep': '' })
  const disk = join(root, 'disk')
  // /dev/full takes the place of a full disk where none can be made.
  if (!mount(disk, 64)) {
    const { status, stderr } = run('sh', ['-c', `${process.execPath} ${COMMAND} help > /dev/full`], root)
    assert.ok(status !== 0, stderr)
    return
  }
  context.after(() => spawnSync('umount', [disk]))
  const before = `DOME=old\n# ${'x'.repeat(8_000 + 100 * turn)}\n`
  writeFileSync(join(disk, 'settings.definition.json'), DEFINITION)
  writeFileSync(join(disk, '.env'), before)
  fill(disk)
  const { status, stderr } = run(process.execPath, [COMMAND, 'set', 'dome', CANARY.repeat(300), '--root', disk], root)
  assert.equal(status, 1, stderr)
  assert.match(stderr, /file-unwritable[\s\S]*no space left/i)
  assert.ok(!stderr.includes(CANARY) && !/\n {4}at /.test(stderr), stderr)
  assert.equal(readFileSync(join(disk, '.env'), 'utf8'), before)
  assert.deepEqual(
    readdirSync(disk).filter((file) => /draft|lock/.test(file)),
    [],
  )
}

function fill(disk: string): void {
  for (let size = 4096; size > 0; size >>= 1) {
    try {
      for (let at = 0; ; at++) writeFileSync(join(disk, `filler-${size}-${at}`), 'x'.repeat(size))
    } catch {}
  }
}

function readOnly(context: Context): void {
  const { root } = makeProject(context, {})
  openToAll(root)
  const directory = join(root, 'closed')
  mkdirSync(directory)
  writeFileSync(join(directory, 'settings.definition.json'), DEFINITION)
  writeFileSync(join(directory, '.env'), 'DOME=old\n')
  chmodSync(directory, 0o555)
  const command = commandForAll(context as never)
  const words = [command, 'set', 'dome', CANARY, '--root', directory]
  const { status, stderr } = run(process.execPath, words, '/', {}, 65534)
  assert.equal(status, 1, stderr)
  assert.ok(/file-unwritable|file-read-only/.test(stderr) && !/\n {4}at /.test(stderr), stderr)
  assert.equal(readFileSync(join(directory, '.env'), 'utf8'), 'DOME=old\n')
}

function removed(context: Context): void {
  const { root } = makeProject(context, { 'gone/.keep': '' })
  const script = `cd gone && rm -r ../gone && ${process.execPath} ${COMMAND} check`
  const { status, stderr } = run('sh', ['-c', script], root)
  assert.equal(status, 1, stderr)
  assert.ok(/directory-gone/.test(stderr) && !/\n {4}at /.test(stderr), stderr)
}
