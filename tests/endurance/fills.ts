import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import YAML from 'yaml'
import { checkText } from '../../packages/mappa-cli/src/analysis/fill/checked-text.ts'
import { fillText, readTemplate } from '../../packages/mappa-cli/src/analysis/fill/fill-text.ts'
import type { LongRun, Random } from './long-run.ts'
import { makeRandom } from './long-run.ts'
import { phpFills } from './php-fills.ts'

/** Puts one value into a template; `null` where that is refused. */
function fill(output: string, template: string, value: string): string | null {
  const file = readTemplate(output, template)
  const find = () => ({ state: 'value', text: value, secret: false, isJson: false }) as const
  const filled = fillText(file, { stage: 'production', environmental: new Set(), find }, false)
  const { text, problems } = checkText(file, filled, output)
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

/** What a shell does with a script. */
interface ScriptRun {
  /** False for a script that it can't read. */
  readonly isReadable: boolean
  readonly output: string
  /** True where it ran what stands in a value. */
  readonly isPwned: boolean
}

/**
 * Has shells read scripts, and run those that they can read. One small shell starts them all: a process of Node takes ten times as long
 * to start another one.
 *
 * @param jobs scripts, each with the shells that are to have it, by their place in {@link SHELLS}
 * @returns for each script what each of its shells did
 */
async function runScripts(
  jobs: readonly { readonly script: string; readonly shells: readonly number[] }[],
): Promise<readonly (readonly ScriptRun[])[]> {
  const root = mkdtempSync(join(tmpdir(), 'mappa-fills-'))
  const lines: string[] = []
  try {
    for (const [at, { script, shells }] of jobs.entries()) {
      writeFileSync(join(root, `${at}.sh`), script)
      for (const index of shells) {
        const shell = SHELLS[index]!.join(' ')
        const own = `${at}-${index}`
        lines.push(
          `mkdir ${own}; cd ${own}; ${shell} -n ../${at}.sh </dev/null >/dev/null 2>&1 && { ${shell} ../${at}.sh </dev/null >../${own}.out 2>/dev/null; }; cd ..`,
        )
      }
    }
    writeFileSync(join(root, 'all'), lines.join('\n'))
    const { status, error } = spawnSync('dash', ['./all'], {
      cwd: root,
      stdio: 'ignore',
      timeout: 600_000,
      env: { PATH: process.env['PATH'] },
    })
    assert.equal(error, undefined)
    assert.notEqual(status, null)
    const names = new Set(readdirSync(root))
    return jobs.map(({ shells }, at) =>
      shells.map((index) => {
        const own = `${at}-${index}`
        const isReadable = names.has(`${own}.out`)
        const output = isReadable ? readFileSync(join(root, `${own}.out`), 'utf8') : ''
        return { isReadable, output, isPwned: readdirSync(join(root, own)).includes('PWNED') }
      }),
    )
  } finally {
    await rm(root, { recursive: true, force: true })
  }
}

const ALL_SHELLS = SHELLS.map((_, index) => index)

/** A word stays one word wherever it is taken, for every shell. */
async function shellFills(count: number, random: Random): Promise<void> {
  const values = Array.from({ length: count }, () => random.text(SHELL_PIECES, 5).replaceAll('\0', ''))
  const all = SHELL_CONTEXTS.map(([template, isWord]) => {
    const isComment = /#.*\$\{A\|sh\}/.test(template)
    const filled = values.flatMap((value) => {
      const text = fill('a.sh', `${template}\n`, value)
      const isTaken = isWord && !(isComment && value.includes('\n'))
      assert.equal(text !== null, isTaken, JSON.stringify({ template, value, text }))
      return text === null ? [] : [{ value, text }]
    })
    return { template, filled }
  }).filter(({ filled }) => filled.length > 0)
  const scripts = all.map(({ filled }) => filled.map(({ text }) => text).join(''))
  const runs = await runScripts(scripts.map((script) => ({ script, shells: ALL_SHELLS })))
  for (const [at, { template, filled }] of all.entries()) {
    const expected = filled.map(({ value }) => expectedOutput(template, value)).join('')
    for (const { output, isPwned } of runs[at]!) assert.deepEqual([isPwned, output], [false, expected], template)
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
  for (let done = 0; done < count; ) {
    const templates = Array.from(
      { length: 64 },
      () => `${random.text(SCRIPT_PIECES, 12)}\${A|sh}${random.text(SCRIPT_PIECES, 12)}`,
    ).filter((template) => fill('a.sh', template, 'fog') !== null)
    const harmless = await runScripts(
      templates.map((template) => ({ script: fill('a.sh', template, 'fog')!, shells: ALL_SHELLS })),
    )
    const jobs = templates.flatMap((template, at) => {
      const shells = ALL_SHELLS.filter((index) => harmless[at]![index]!.isReadable)
      return shells.length === 0 ? [] : filledScripts(template).map((each) => ({ ...each, shells }))
    })
    const tried = jobs.slice(0, count - done)
    const runs = await runScripts(tried)
    for (const [at, job] of tried.entries())
      for (const { isReadable, isPwned } of runs[at]!)
        assert.deepEqual([isReadable, isPwned], [true, false], JSON.stringify(job))
    done += tried.length
  }
}

/** A template with each value that it can be filled with. */
const filledScripts = (template: string) =>
  SCRIPT_VALUES.flatMap((value) => {
    const script = fill('a.sh', template, value)
    return script === null ? [] : [{ template, value, script }]
  })

type Shell = readonly [shell: string, ...words: string[]]

/** So many values go through other readers at once. */
const BATCH = 200

/** No value becomes a part of what it is put into. */
export const fills: LongRun = {
  name: 'fills',
  programs: ['python3-yaml', 'dash', 'busybox', 'php-cli'],
  promise: 'a value changes nothing of an output but itself, for every reader',
  short: 10,
  long: 5_000,
  async run(count, seed) {
    const random = makeRandom(seed)
    for (let done = 0; done < count; done += BATCH) {
      const size = Math.min(BATCH, count - done)
      yamlFills(size, random)
      phpFills(size, random, fill)
      await shellFills(size, random)
      await scriptFills(size * 4, random)
    }
  },
}
