import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import { describe, it } from 'node:test'
import { needs } from '@mappa/tests/support/programs'
import fc from 'fast-check'
import type { SettingsError } from 'mappa-settings'
import { EnvDocument } from 'mappa-settings/envfile'

const texts = fc
  .string({
    unit: fc.oneof(
      fc.constantFrom(...'ab1 #$"\'\\`{}:-!*?~;&|<>()=\n\r\t%é🌙'),
      fc.string({ minLength: 1, maxLength: 1, unit: 'grapheme' }),
    ),
  })
  .filter((text) => !/[\0]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.test(text))

const FILE = `# Fernhollow\n\nexport A='one' # first\nB = "two"\t# second\n\n  C=three\n# the last one\nD="x\ny"`

/** Shells that read what is written, each called so that it reads a script from standard input. */
const SHELLS: readonly (readonly string[])[] = [['dash'], ['bash'], ['busybox', 'sh'], ['zsh', '-f']]

/** Values with everything that means something to a shell, carriage returns and line breaks included. */
const shellTexts = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 20 }).map((text) => text.replaceAll('\0', '')),
  fc.string({ unit: fc.constantFrom(...'\r\n\r\n\'"$`\\#~=:!{}[]()*?;&|<>%^ \tab1-'), maxLength: 12 }),
)

describe('editing', () => {
  it('changes what it is asked to change, and nothing else', () => {
    const edits: readonly [string, (document: EnvDocument) => EnvDocument, string][] = [
      ['a value in its quotes', (each) => each.set('A', 'uno'), FILE.replace("'one'", "'uno'")],
      ['a value that its quotes can not hold', (each) => each.set('A', "it's"), FILE.replace("'one'", '"it\'s"')],
      ['blanks that a shell would not read', (each) => each.set('B', 'due'), FILE.replace('B = "two"', 'B="due"')],
      ['a value that needs quotes now', (each) => each.set('C', 'a b'), FILE.replace('C=three', "C='a b'")],
      ['lines into one', (each) => each.set('D', 'z'), FILE.replace('"x\ny"', '"z"')],
      ['a new name, without a last line end', (each) => each.set('E', '5'), `${FILE}\nE=5`],
      ['a new name, with one', () => EnvDocument.from('A=1\n').set('B', '2'), 'A=1\nB=2\n'],
      [
        'a new name behind another',
        (each) => each.insertEntry('C', 'E', '5'),
        FILE.replace('C=three\n', 'C=three\nE=5\n'),
      ],
      ['a new name behind the last', (each) => each.insertEntry('D', 'E', '5'), `${FILE}\nE=5`],
      ['an empty file', () => EnvDocument.from('').set('A', '1'), 'A=1\n'],
      ['CRLF', () => EnvDocument.from('A=1\r\nB=2\r\n').set('C', 'x\ny').set('A', '3'), "A=3\r\nB=2\r\nC='x\r\ny'\r\n"],
      [
        'a byte-order mark',
        () => EnvDocument.from('\ufeffA=1\n').set('A', '2', { day: '2026-11-23' }),
        '\ufeff# set 2026-11-23\nA=2\n',
      ],
      [
        'the day',
        () => EnvDocument.from('A=1\nB=2').set('B', '3', { day: '2026-11-23' }),
        'A=1\n# set 2026-11-23\nB=3',
      ],
      [
        'the day again',
        () => EnvDocument.from('# set 2020-01-01\nA=1\n').set('A', '2', { day: '2026-11-23' }),
        '# set 2026-11-23\nA=2\n',
      ],
      ['a broken entry', () => EnvDocument.from('A="open\nB=2\n').set('A', '1'), 'A=1\nB=2\n'],
      [
        'a key without quotes',
        () => EnvDocument.from('A=-----BEGIN K\nab==\n-----END K-----\nB=2\n').set('A', '1'),
        'A=1\nB=2\n',
      ],
      ['a colon', () => EnvDocument.from('A: one\n').set('A', '1'), 'A=1\n'],
      ['the one that holds', () => EnvDocument.from('A=1\nA=2\n').set('A', '3'), 'A=1\nA=3\n'],
      ['taking out', (each) => each.remove('C'), FILE.replace('  C=three\n', '')],
      ['taking out the last', (each) => each.remove('D'), FILE.replace('\nD="x\ny"', '')],
      ['taking out all of a name', () => EnvDocument.from('A=1\n# set 2026-01-01\nA=2\nB=3\n').remove('A'), 'B=3\n'],
      ['taking out what is not there', (each) => each.remove('Z'), FILE],
      [
        'a new name for an old one',
        () => EnvDocument.from('A=1\nB="${A} $A ${C:-${A}} $AB"\nA=2').rename('A', 'NEW'),
        'NEW=1\nB="${NEW} $NEW ${C:-${NEW}} $AB"\nNEW=2',
      ],
    ]
    for (const [what, edit, expected] of edits) assert.equal(String(edit(EnvDocument.from(FILE))), expected, what)
    assert.equal(
      EnvDocument.from('# set 2026-11-23\nA=1').getDay(EnvDocument.from('# set 2026-11-23\nA=1').get('A')!),
      '2026-11-23',
    )
  })

  it('refuses what no env file can hold', () => {
    const cases: readonly [() => unknown, string][] = [
      [() => EnvDocument.from('').set('A', 'x\0'), 'value-unwritable'],
      [() => EnvDocument.from('').set('A', '\ud800'), 'value-unwritable'],
      [() => EnvDocument.from('').set('A-B', 'x'), 'name-unwritable'],
      [() => EnvDocument.from('A=1\nB=2').rename('A', 'B'), 'rename-taken'],
      [() => EnvDocument.from('A=1').rename('A', 'B\nC'), 'name-unwritable'],
    ]
    for (const [edit, code] of cases) assert.throws(edit, (error: SettingsError) => error.problems[0]!.code === code)
  })

  it('reads back every value that it wrote, and leaves every other line alone', () => {
    const line = fc.constantFrom(
      'A=1',
      "A='x'",
      'A="x"',
      'A = "x" # c',
      'export A=x',
      'B=$A',
      '# c',
      '',
      'C="open',
      'D=a b',
      "E='1\n2'",
    )
    const files = fc
      .tuple(fc.array(line, { maxLength: 6 }), fc.constantFrom('\n', '\r\n'), fc.boolean())
      .map(([lines, eol, end]) => lines.join('\n').replaceAll('\n', eol) + (end ? eol : ''))
    fc.assert(
      fc.property(files, texts, (text, value) => {
        const before = EnvDocument.from(text)
        let after: EnvDocument
        try {
          after = before.set('A', value)
        } catch (error) {
          assert.equal((error as SettingsError).problems[0]!.code, 'edit-swallowed')
          assert.ok(text.includes('open'))
          return
        }
        assert.equal(after.get('A')!.value, value)
        const { line } = after.get('A')!
        assert.deepEqual(
          after.problems.filter((each) => each.line === line),
          [],
        )
        assert.equal(text.endsWith('\n') || text === '', String(after).endsWith('\n'))
        const others = (document: EnvDocument) =>
          document.entries
            .filter(({ name }) => name !== 'A')
            .map(({ name, value: kept }) => [name, typeof kept === 'string' ? kept : kept.length])
        // An open quote may close now, or open: whatever stood behind it is then read in another way.
        if (!text.includes('open')) assert.deepEqual(others(after), others(before))
      }),
      { numRuns: 2000 },
    )
  })

  it('writes what every shell reads the same, whatever was edited', needs('dash', 'busybox', 'zsh'), () => {
    const edit = fc.tuple(fc.constantFrom('set', 'remove', 'insertAfter'), fc.constantFrom('A', 'B', 'C'), shellTexts)
    const samples = fc.sample(fc.array(edit, { minLength: 1, maxLength: 6 }), { numRuns: 300, seed: 41 })
    const files = samples.map((edits) =>
      edits.reduce((document, [how, name, value]) => {
        if (how === 'remove') return document.remove(name)
        return how === 'set' ? document.set(name, value) : document.insertEntry('A', name, value)
      }, EnvDocument.from("# the dome\nB='x' # c\n")),
    )
    const expected = files.flatMap((file) => ['A', 'B', 'C'].map((name) => String(file.get(name)?.value ?? '')))
    const print = `printf '%s\\0%s\\0%s\\0' "$A" "$B" "$C"`
    const script = files.map((file) => `(A= B= C=\n${file}\n${print})\n`).join('')
    for (const [shell, ...words] of SHELLS) {
      const { stdout, stderr, error } = spawnSync(shell!, words, {
        input: script,
        encoding: 'utf8',
        env: { LC_ALL: 'C.UTF-8' },
      })
      assert.equal(error, undefined, shell)
      assert.equal(stderr, '', shell)
      assert.deepEqual(stdout.split('\0').slice(0, -1), expected, shell)
    }
  })

  const refused: readonly (readonly [string, string, string])[] = [
    ['an open quote that would take in what follows', "C='open\nA='s'\nB=1\n# it's\n", 'A'],
  ]
  for (const [what, text, name] of refused) {
    it(`refuses to take out an entry: ${what}`, () => {
      assert.throws(
        () => EnvDocument.from(text).remove(name),
        (error: SettingsError) => error.problems[0]!.code === 'edit-swallowed' && error.problems[0]!.line === 1,
      )
    })
  }

  const kept: readonly (readonly [string, string, (document: EnvDocument) => EnvDocument, string])[] = [
    [
      'a value with CRLF leaves the file as it is',
      '',
      (each) => each.set('CERT', 'a\r\nb').set('B', 'two'),
      "CERT='a\r\nb'\nB=two\n",
    ],
    ['the first line goes', 'A=x\nB="1\r\n2"\n', (each) => each.remove('A'), 'B="1\r\n2"\n'],
    ['a value that begins with =', '', (each) => each.set('V', '=x'), "V='=x'\n"],
    ['a new entry in a file of CRLF', 'A=x\r\n', (each) => each.set('B', 'two'), 'A=x\r\nB=two\r\n'],
    [
      'a new line in the middle of mixed lines',
      'A=x\r\nB=y\n',
      (each) => each.insertEntry('A', 'C', 'z'),
      'A=x\r\nC=z\r\nB=y\n',
    ],
  ]
  for (const [what, text, edit, expected] of kept) {
    it(`keeps everything else: ${what}`, () => {
      const before = EnvDocument.from(text)
      const after = edit(before)
      assert.equal(String(after), expected)
      for (const { name, value } of before.entries)
        assert.ok(after.get(name) === undefined || after.get(name)!.value === value)
    })
  }

  it('refuses a day that is none', () => {
    for (const day of ['2026\nX=1', '2026-13-01', 'today'])
      assert.throws(() => EnvDocument.from('').set('A', 'x', { day }), /day-wrong/)
  })
})
