import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import type { Random } from './long-run.ts'

const PIECES = [
  ...[
    "'",
    '"',
    '\\',
    '\\\\',
    "\\'",
    '$',
    '${',
    '{$x}',
    '$x',
    '`',
    '\n',
    '\r',
    '\r\n',
    '\t',
    ' ',
    ';',
    ',',
    ')',
    ']',
    '}',
  ],
  ...[
    '?>',
    '<?php ',
    '<?=',
    '<?',
    '//',
    '#',
    '#[',
    '/*',
    '*/',
    '<<<E\n',
    '\nE',
    '\nE;\n',
    ' E',
    'E',
    '__halt_compiler();',
  ],
  ...[
    "'.evil().'",
    '".evil()."',
    '\\n',
    '\\x41',
    '\\u{41}',
    '\\0',
    '%',
    '-',
    '1',
    '0x1f',
    'true',
    'fog',
    'ü',
    '星',
    '🔭',
    '\ufeff',
  ],
]

/** Contexts of PHP, and whether a value with the filter is all that the file returns. */
const CONTEXTS: readonly (readonly [template: string, isReturned: boolean])[] = [
  ['<?php return @;', true],
  ["<?php\nreturn ['k' => @, 'l' => 2]['k'];\n", true],
  ['<?php $a = @; return $a;', true],
  ['<?php return (fn() => @)();', true],
  ['<p>x</p><?php /* c */ return @; // end', true],
  ['<?php return "x @ y";', false],
  ["<?php return 'x @ y';", false],
  ["<?php return '@';", false],
  ['<?php return "$a @ {$b}";', false],
  ['<?php // for @\nreturn 1;', false],
  ['<?php # for @ ?>x<?php return 1;', false],
  ['<?php /* for @ */ return 1;', false],
  ['<?php return <<<E\n  a @\n  E;', false],
  ["<?php return <<<'E'\na @\nE;\n", false],
  ['<?php return <<<E\n@\nE;\n', false],
  ['<p>@</p>', false],
  ['<p>@<?php return 1;', false],
  ['<p><?= @ ?></p>', false],
  ['<?php return 1 ?> @ x', false],
  ['<?php return `ls @`;', false],
  ['<?php return X@;', false],
  ['<?php return $x@;', false],
  ['<?php return 1@;', false],
  ['<?php return -@;', false],
  ['<?php return [@];', false],
  ['<?php @', false],
  ['<?php __halt_compiler(); @', false],
  ["<?php return 'a' . @ . 'b';", false],
  ['#!/usr/bin/php\n<?php return @;', false],
].flatMap(([template, isReturned]) => [
  [(template as string).replaceAll('@', '${A|php}'), isReturned as boolean] as const,
  [(template as string).replaceAll('@', '${A}'), false] as const,
])

/** Takes each text apart as PHP does, and runs those that return a value with the filter. */
const PHP = `
$all = json_decode(stream_get_contents(STDIN), true);
$out = [];
foreach ($all as [$text, $runs]) {
  try { $tokens = token_get_all($text, TOKEN_PARSE); $kind = 'read'; } catch (Error $e) { $tokens = token_get_all($text); $kind = 'refused'; }
  $names = array_map(fn($t) => is_array($t) ? preg_replace('/^(T_DNUMBER|T_STRING)$/', 'T_LNUMBER', token_name($t[0])) : $t, $tokens);
  $value = null;
  if ($runs) { ob_start(); $value = eval('?>' . $text); ob_end_clean(); }
  $out[] = [$kind . ' ' . implode(' ', $names), $value === null ? null : base64_encode($value)];
}
echo json_encode($out);`

/** A value is one token, wherever it is taken, and what a file returns is the value. */
export function phpFills(
  count: number,
  random: Random,
  fill: (output: string, template: string, value: string) => string | null,
): void {
  const tried: {
    readonly template: string
    readonly value: string
    readonly text: string
    readonly isReturned: boolean
  }[] = []
  for (let at = 0; at < count; at++) {
    const value = random.text(PIECES, 5)
    for (const [template, isReturned] of CONTEXTS) {
      const text = fill('a.php', template, value)
      if (isReturned) assert.notEqual(text, null, JSON.stringify({ template, value }))
      if (text !== null) tried.push({ template, value, text, isReturned })
    }
  }
  const asked = [
    ...tried.map(({ text, isReturned }) => [text, isReturned]),
    ...CONTEXTS.map(([template]) => [fill('a.php', template, '12') ?? template.replaceAll('${A}', 'harmless'), false]),
  ]
  const { stdout, stderr } = spawnSync('php', ['-d', 'short_open_tag=0', '-r', PHP], {
    input: JSON.stringify(asked),
    encoding: 'utf8',
    maxBuffer: 1 << 30,
  })
  assert.notEqual(stdout, '', stderr)
  const read = JSON.parse(stdout) as [string, string | null][]
  const shapes = new Map(CONTEXTS.map(([template], at) => [template, read[tried.length + at]![0]]))
  for (const [at, { template, value, text, isReturned }] of tried.entries()) {
    const [shape, returned] = read[at]!
    const report = JSON.stringify({ template, value, text, shape, wanted: shapes.get(template) })
    assert.equal(shape, shapes.get(template), report)
    if (isReturned) assert.equal(Buffer.from(returned!, 'base64').toString(), value, report)
  }
  assert.ok(tried.length > count * 5, `${tried.length} of ${count * CONTEXTS.length} were filled in`)
}
