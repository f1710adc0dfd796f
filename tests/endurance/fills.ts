import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import YAML from 'yaml'
import { checkedText } from '../../packages/mappa-cli/src/analysis/fill/checked-text.ts'
import { fillText, readTemplate } from '../../packages/mappa-cli/src/analysis/fill/fill-text.ts'
import type { LongRun, Random } from './long-run.ts'
import { makeRandom } from './long-run.ts'

/** Puts one value into a template; `null` where that is refused. */
function fill(output: string, template: string, value: string): string | null {
  const file = readTemplate(output, template)
  const find = () => ({ state: 'value', text: value, secret: false, isJson: false }) as const
  const filled = fillText(file, { stage: 'production', environmental: new Set(), find }, false)
  const { text, problems } = checkedText(file, filled, output)
  return [...file.faults, ...filled.problems, ...problems].length > 0 ? null : text
}

const BREAKS = ['\n', '\r', '\r\n', '\u0085', '\u2028', '\u2029', '\t', '\v', '\f', '\x1b', '\x7f', '\ufeff', '\ufffe']
const YAML_PIECES = [
  ...BREAKS,
  ...[
    'evil: 1',
    '- evil',
    '{a: 1}',
    '[a, b]',
    ': ',
    ' #',
    '#',
    '"',
    "'",
    '\\',
    '*a',
    '&a ',
    '!x ',
    '? ',
    '- ',
    '|',
    '>',
    '%',
    '@',
    '`',
  ],
  ...[
    '---',
    '...',
    '<<',
    '=',
    '~',
    'null',
    'yes',
    '0x1f',
    '0b_',
    '1:30',
    '.inf',
    '2026-11-26',
    '2026-02-31',
    '0000-01-01',
    ' ',
    '  ',
    ',',
  ],
  ...['a', 'fog', 'ü', '星', '🔭', '${X}', '\\n', ']', '}'],
]

/** Contexts of YAML. Those with the filter have to keep the value as it is, wherever they take it. */
const YAML_CONTEXTS: readonly string[] = [
  ...['k: @', '? @\n: 1', '@: 1', '- @', '- - @', '{ k: @ }', '[1, @, 2]', '{ @: 1 }', '- k: @\n  l: 2', '--- @\n'],
  ...["k: '@'", "k: 'a @ b'", 'k: "@"', 'k: "a @ b"', "'@': 1", '"@": 1', '[ \'@\', "@" ]'],
  ...[
    'k: |\n  @',
    'k: |\n  a\n  @\n  b',
    'k: |\n  a @ b',
    'k: >\n  @',
    'k: |-\n  @',
    'k: |+\n  @\n',
    'k: |2\n  @',
    '- |\n @',
  ],
  ...[
    'k: a@',
    'k: a @ b',
    'k: @b',
    '[a@, b]',
    'k: 1 # @',
    '# @',
    'k: # @\n  1',
    'k: |\n  a\n# @',
    'k: &@ 1',
    'k: !@ 1',
    'k: &harmless 1\nl: *@',
  ],
  ...['%YAML 1.1 # @\n---\na: 1', 'k: |@\n  a', 'k:\n  @\nl: 1'],
].flatMap((each) => [`${each.replaceAll('@', '${A|yaml}')}\nlast: 1\n`, `${each.replaceAll('@', '${A}')}\nlast: 1\n`])

const PYTHON = `import json, sys, yaml
def shape(node):
    if isinstance(node, yaml.MappingNode): return {'map': [[shape(k), shape(v)] for k, v in node.value]}
    if isinstance(node, yaml.SequenceNode): return [shape(each) for each in node.value]
    return node.value
def read(text, loader):
    try:
        list(yaml.load_all(text, loader))
        return [shape(each) for each in yaml.compose_all(text, loader)]
    except Exception as error: return 'refused: ' + type(error).__name__
json.dump([[read(text, yaml.SafeLoader), read(text, yaml.CSafeLoader)] for text in json.load(sys.stdin)], sys.stdout)`

/** A document as what it is made of, with the texts of its scalars as they are read. */
function shapeIn(text: string, version: '1.1' | '1.2'): unknown {
  const documents = YAML.parseAllDocuments(text, { version, logLevel: 'silent', uniqueKeys: false, merge: false })
  const list = [documents].flat() as YAML.Document.Parsed[]
  if (list.some(({ errors }) => errors.length > 0)) return 'refused'
  const shape = (node: unknown): unknown => {
    if (YAML.isMap(node)) return { map: node.items.map(({ key, value }) => [shape(key), shape(value)]) }
    if (YAML.isSeq(node)) return node.items.map(shape)
    if (YAML.isAlias(node)) return shape(node.resolve(list[0]!))
    if (!YAML.isScalar(node)) return ''
    return node.type === 'PLAIN' ? (node.source ?? '') : String(node.value)
  }
  return list.map(({ contents }) => shape(contents))
}

const withoutTexts = (shape: unknown): string =>
  JSON.stringify(shape, (_key, each) => (typeof each === 'string' && !each.startsWith('refused') ? '' : each))

/** No value changes what an output in YAML is made of, for any of four readers, and each of them gets the value. */
function yamlFills(count: number, random: Random): void {
  const tried: { readonly template: string; readonly value: string; readonly text: string }[] = []
  for (let at = 0; at < count; at++) {
    const value = random.text(YAML_PIECES, 5)
    for (const template of YAML_CONTEXTS) {
      const text = fill('a.yaml', template, value)
      if (text !== null) tried.push({ template, value, text })
    }
  }
  const python = spawnSync('/usr/bin/python3', ['-c', PYTHON], {
    input: JSON.stringify([...tried.map(({ text }) => text), ...YAML_CONTEXTS.map((each) => harmless(each))]),
    encoding: 'utf8',
    maxBuffer: 1 << 30,
  })
  const read = JSON.parse(python.stdout) as [unknown, unknown][]
  const expected = new Map(YAML_CONTEXTS.map((each, at) => [each, shapesOf(harmless(each), read[tried.length + at]!)]))
  for (const [at, { template, value, text }] of tried.entries()) {
    const shapes = shapesOf(text, read[at]!)
    const report = JSON.stringify({ template, value, text, shapes })
    for (const [reader, shape] of shapes.entries()) {
      const wanted = expected.get(template)![reader]
      assert.equal(withoutTexts(shape), withoutTexts(wanted), report)
      // A block ends with a line of its own, whether the value does or not.
      const isExact = template.includes('|yaml') && !template.includes('*${') && !/[|>][-+2]?\n/.test(template)
      if (isExact)
        assert.deepEqual(
          JSON.stringify(shape),
          JSON.stringify(wanted).replaceAll('harmless', () => JSON.stringify(value).slice(1, -1)),
          report,
        )
    }
  }
  assert.ok(tried.length > count * 5, `${tried.length} of ${count * YAML_CONTEXTS.length} were filled in`)
}

const harmless = (template: string) => template.replaceAll(/\$\{A[^}]*\}/g, 'harmless')
const shapesOf = (text: string, [pure, fast]: [unknown, unknown]) => [
  shapeIn(text, '1.2'),
  shapeIn(text, '1.1'),
  pure,
  fast,
]

const RUNS = '$(touch PWNED)'
const SHELL_PIECES = [
  ...[
    '\n',
    '\r',
    '\t',
    "'",
    '"',
    '`',
    '\\',
    '$',
    '#',
    ' ',
    ';',
    '&',
    '|',
    ')',
    '))',
    '}',
    ']',
    ']]',
    '(',
    '{',
    '<',
    '*',
    '~',
    '!',
    '-n',
    '%s',
  ],
  ...[
    RUNS,
    '`touch PWNED`',
    '\ntouch PWNED\n',
    ';touch PWNED;',
    "';touch PWNED;'",
    '";touch PWNED;"',
    '\nEOF\ntouch PWNED\n',
    `a[${RUNS}]`,
    '}touch PWNED',
    'fog',
    'ü',
  ],
]

/** Contexts of scripts, and whether a word can be there. */
const SHELL_CONTEXTS: readonly (readonly [template: string, isWord: boolean])[] = [
  ["printf '%s\\0' @", true],
  ["printf '%s\\0' a@b", true],
  ['X=@; printf \'%s\\0\' "$X"', true],
  ['printf \'%s\\0\' "$(printf %s @; echo .)"', true],
  ["printf '%s\\0' $(printf %s 'a b') @ # it's", true],
  ["( printf '%s\\0' @ )", true],
  ["{ printf '%s\\0' @; }", true],
  ["if [ x = @ ]; then :; fi; printf '%s\\0' @", true],
  ["case @ in x) :;; esac; printf '%s\\0' @", true],
  ["printf '%s\\0' \\\n  @", true],
  ['printf \'%s\\0\' "a"@"b" \'c\'', true],
  ["printf '%s\\0' ok # built for @", true],
  ["# built for @\nprintf '%s\\0' ok", true],
  ["printf '%s\\0' ${B:+@}", true],
  ["printf '%s\\0' ${B:+a b=@}", true],
  ["printf '%s\\0' ${B:+it's @}", false],
  ["printf '%s\\0' ${B:+${C:+it's @}}", false],
  ['printf \'%s\\0\' "${B:+@}"', false],
  ["printf '%s\\0' ${A|sh|json}", false],
  ["printf '%s\\0' ${A|sh|xml}", false],
  ["cat <<EOF >/dev/null\nit's \"\nEOF\nprintf '%s\\0' @", true],
  ["f() { printf '%s\\0' @; }; f", true],
  ['printf \'%s\\0\' "dir: @ done"', false],
  ['printf \'%s\\0\' "@"', false],
  ["printf '%s\\0' 'dir: @ done'", false],
  ['printf \'%s\\0\' "${x:-@}"', false],
  ["printf '%s\\0' ${x:-@}", false],
  ['printf \'%s\\0\' "`printf %s @`"', false],
  ["printf '%s\\0' `printf %s @`", false],
  ['cat <<EOF\nfor @\nEOF', false],
  ["cat <<'EOF'\nfor @\nEOF", false],
  ['cat <<-EOF\n\tfor @\n\tEOF', false],
  ['cat <<A <<B\n$(echo)\nA\nfor @\nB', false],
  ['printf \'%s\\0\' "$(cat <<EOF\nfor @\nEOF\n)"', false],
  ["printf '%s\\0' $((1 + @))", false],
  ["printf '%s\\0' \\@", false],
  ['printf \'%s\\0\' "$(case x in a) echo " @ ";; esac)"', false],
  ['echo " it\'s @ ', false],
].map(([template, isWord]) => [
  (template as string).replaceAll('@', '${A|sh}').replaceAll('${x', () => '$${x'),
  isWord as boolean,
])

/** Pieces of scripts of all kinds, well-formed or not; nothing in them runs but `echo` and `:`. */
const SCRIPT_PIECES = [
  ...[
    "'",
    '"',
    '`',
    '\\',
    '\n',
    '\n',
    ' ',
    ' ',
    ' # ',
    '#',
    '$(',
    ')',
    '$${x:-',
    '$${x#',
    '}',
    '$((',
    '))',
    '((',
    '(',
    '$[',
    ']',
    'a[',
    '[[ ',
    ' ]]',
    ' -eq ',
  ],
  ...[
    '<<EOF\n',
    '\nEOF\n',
    "<<'EOF'\n",
    '<<-EOF\n\t',
    '<<"E F"\n',
    '\nE F\n',
    '<<<',
    'case x in x) ',
    ';; esac',
    "$'",
    '$"',
    ';',
    ' && ',
    ' | ',
    '{ ',
    '; }',
    'x=',
    "\\'",
    '\\"',
    '\t',
    '\r\n',
  ],
  ...['echo ', ': ', 'if :; then ', '; fi', '${A|sh}', ' ${A|sh} ', '${A|sh}', ' ${A|sh}\n'],
]
const SCRIPT_VALUES = [
  RUNS,
  `'${RUNS}'`,
  '`touch PWNED`',
  `"${RUNS}"`,
  '\ntouch PWNED\n',
  '; touch PWNED;',
  `a[${RUNS}]`,
  "';touch PWNED;'",
  '\nEOF\ntouch PWNED\n',
  '}\ntouch PWNED\n',
  ')\ntouch PWNED\n',
  `\\${RUNS}`,
]
const SHELLS: readonly Shell[] = [['dash'], ['bash'], ['bash', '--posix'], ['busybox', 'sh']]

/** Runs scripts in every shell, and says which of them ran what stands in a value. */
async function runScripts(
  scripts: readonly string[],
): Promise<{ readonly outputs: readonly string[][]; readonly pwned: readonly number[] }> {
  const root = mkdtempSync(join(tmpdir(), 'mappa-fills-'))
  try {
    for (const [at, script] of scripts.entries()) writeFileSync(join(root, `${at}.sh`), script)
    const outputs: string[][] = scripts.map(() => [])
    for (const [at] of scripts.entries())
      for (const [shell, ...words] of SHELLS) {
        const { stdout } = spawnSync(shell, [...words, `./${at}.sh`], {
          cwd: root,
          encoding: 'utf8',
          timeout: 60_000,
          maxBuffer: 1 << 28,
          input: '',
          env: { PATH: process.env['PATH'] },
        })
        outputs[at]!.push(stdout)
        if (readdirSync(root).includes('PWNED')) return { outputs, pwned: [at] }
      }
    return { outputs, pwned: [] }
  } finally {
    await rm(root, { recursive: true, force: true })
  }
}

/** A word stays one word wherever it is taken, for every shell. */
async function shellFills(count: number, random: Random): Promise<void> {
  const values = Array.from({ length: count }, () => random.text(SHELL_PIECES, 5).replaceAll('\0', ''))
  for (const [template, isWord] of SHELL_CONTEXTS) {
    const isComment = /#.*\$\{A\|sh\}/.test(template)
    const filled = values.flatMap((value) => {
      const text = fill('a.sh', `${template}\n`, value)
      const isTaken = isWord && !(isComment && value.includes('\n'))
      assert.equal(text !== null, isTaken, JSON.stringify({ template, value, text }))
      return text === null ? [] : [{ value, text }]
    })
    const { outputs, pwned } = await runScripts([filled.map(({ text }) => text).join('')])
    assert.deepEqual(pwned, [], template)
    if (filled.length === 0) continue
    const expected = filled.map(({ value }) => expectedOutput(template, value)).join('')
    for (const output of outputs[0]!) assert.equal(output, expected, template)
  }
}

function expectedOutput(template: string, value: string): string {
  if (template.includes('a b=')) return value === '' ? '\0' : `a\0b=${value}\0`
  if (template.includes('echo .')) return `${value}.\0`
  if (template.includes("'a b')")) return `a\0b\0${value}\0`
  if (template.includes('"b" \'c\'')) return `a${value}b\0c\0`
  if (template.includes('a${A|sh}b')) return `a${value}b\0`
  return /' ok/.test(template) ? 'ok\0' : `${value}\0`
}

/** Where a word is taken, in whatever script that a shell can read, it can read it with the value as well, and runs nothing of it. */
async function scriptFills(count: number, random: Random): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'mappa-fills-'))
  const run = ([shell, ...words]: Shell, script: string) => {
    writeFileSync(join(root, 'a.sh'), script)
    const how = { cwd: root, timeout: 60_000, input: '', env: { PATH: process.env['PATH'] } }
    return spawnSync(shell, [...words, './a.sh'], how).status
  }
  const canRead = ([shell, ...words]: Shell, script: string) => run([shell, ...words, '-n'], script) === 0
  try {
    for (let done = 0; done < count; ) {
      const template = `${random.text(SCRIPT_PIECES, 12)}\${A|sh}${random.text(SCRIPT_PIECES, 12)}`
      const harmless = fill('a.sh', template, 'fog')
      const shells = harmless === null ? [] : SHELLS.filter((shell) => canRead(shell, harmless))
      for (const value of shells.length === 0 ? [] : SCRIPT_VALUES) {
        const script = fill('a.sh', template, value)
        if (script === null) continue
        done++
        for (const shell of shells) {
          const report = JSON.stringify({ shell, template, value, script })
          assert.ok(canRead(shell, script), report)
          run(shell, script)
          assert.ok(!readdirSync(root).includes('PWNED'), report)
        }
      }
    }
  } finally {
    await rm(root, { recursive: true, force: true })
  }
}

type Shell = readonly [shell: string, ...words: string[]]

/** So many values go through other readers at once. */
const BATCH = 200

/** No value becomes a part of what it is put into. */
export const fills: LongRun = {
  name: 'fills',
  programs: ['python3-yaml', 'dash', 'busybox'],
  promise: 'a value changes nothing of an output but itself, for every reader',
  short: 30,
  long: 5_000,
  async run(count, seed) {
    const random = makeRandom(seed)
    for (let done = 0; done < count; done += BATCH) {
      const size = Math.min(BATCH, count - done)
      yamlFills(size, random)
      await shellFills(size, random)
      await scriptFills(size * 4, random)
    }
  },
}
