import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import { EnvDocument } from 'mappa-settings/envfile'
import { type LongRun, makeRandom, type Random } from './long-run.ts'

/** Shells that read what is written, each called so that it reads a script from standard input. */
const SHELLS: readonly (readonly string[])[] = [['dash'], ['bash'], ['busybox', 'sh'], ['zsh', '-f']]
/** Everything that means something to a shell. */
const PIECES = [...'\r\n\'"$`\\#~=:!{}[]()*?;&|<>%^ \tab1-é🌙\u0001\u007f', '\r\n', '$(x)', '${A}', '  ']
const NAMES = ['A', 'B', 'C']
const BATCH = 500

/** What is written is read as the same values by four shells, whatever was edited. */
export const edits: LongRun = {
  name: 'edits',
  programs: ['dash', 'busybox', 'zsh'],
  promise: 'edits and values are read the same by dash, bash, BusyBox and zsh',
  short: 1000,
  long: 100_000,
  run(count, seed) {
    const random = makeRandom(seed)
    for (let done = 0; done < count; ) {
      const files: EnvDocument[] = []
      for (; files.length < BATCH && done < count; ) {
        let file = EnvDocument.from("# the dome\nB='x' # c\n")
        for (let edit = 1 + random.below(5); edit > 0; edit--, done++) file = edited(file, random)
        files.push(file)
      }
      assertRead(files)
    }
  },
}

function edited(file: EnvDocument, random: Random): EnvDocument {
  const name = random.of(NAMES)
  const how = random.below(8)
  if (how === 0) return file.remove(name)
  const value = random.text(PIECES, 12)
  return how === 1 ? file.insertEntry('A', name, value) : file.set(name, value)
}

function assertRead(files: readonly EnvDocument[]): void {
  const expected = files.flatMap((file) => NAMES.map((name) => String(file.get(name)?.value ?? '')))
  const print = `printf '%s\\0%s\\0%s\\0' "$A" "$B" "$C"`
  const script = files.map((file) => `(A= B= C=\n${file}\n${print})\n`).join('')
  for (const [shell, ...words] of SHELLS) {
    const options = { input: script, encoding: 'utf8' as const, env: { LC_ALL: 'C.UTF-8' }, maxBuffer: 1 << 27 }
    const { stdout, stderr, error } = spawnSync(shell!, words, options)
    assert.equal(error, undefined, shell)
    assert.equal(stderr, '', shell)
    assert.deepEqual(stdout.split('\0').slice(0, -1), expected, shell)
  }
}
