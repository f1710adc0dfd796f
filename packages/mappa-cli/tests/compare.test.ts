import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { DEFINITION, makeProject, type Project } from '@mappa/tests/support/project'

const DRILL = 'drill-kq83-made-up'
const FILES = {
  'settings.definition.ts': DEFINITION.replace(
    'minLength: 12',
    'minLength: 12, distinctAcrossStages: true, stages: { production: { pattern: /^open-/ } }',
  ).replace(
    'motors:',
    "alarm: setting.email('Who is told when the dome sticks', { optional: true }),\n    patience: setting.duration('How long to wait', { default: 2000 }),\n    motors:",
  ),
  '.env': 'SERVER_PORT=4100\n',
  '.env.development': 'DOME_URL=http://127.0.0.1:4200\nDOME_PATIENCE=2s\n',
  '.env.development.local': `DOME_KEY=${DRILL}\n`,
  '.env.staging':
    'DOME_URL=https://rehearsal.fernhollow.example/a/long/path/to/the/dome\nDOME_KEY=rehearsal-kq83-made-up\n',
  '.env.production': 'DOME_URL=https://dome.fernhollow.example\nSERVER_PORT=41200\nDOME_MOTORS=maybe\n',
  '.env.production.local': `DOME_KEY=${DRILL}\n`,
}

/** The cells of each row of a printed table, by the name of the setting; cells are separated by two blanks or more. */
function rowsIn(stdout: string): Record<string, string[]> {
  const rows = stdout.split('\n').flatMap((line) => {
    const cells = line.split(/ {2,}/).filter((each) => each !== '')
    return /^[=≠✗–]$/.test(cells[0] ?? '') && cells.length > 2 ? [cells] : []
  })
  return Object.fromEntries(rows.map(([sign, name, ...cells]) => [name!, [sign!, ...cells]]))
}

const dome = (context: TestContext): Project => makeProject(context, FILES)

describe('the environment of this process', () => {
  const files = {
    ...FILES,
    '.env.development': 'DOME_URL=http://127.0.0.1:4200/${DOME_PLACE}\n',
    '.env.staging.local': 'DOME_KEY=rehearsal-kq83-made-up\n',
    '.env.production': 'DOME_URL=https://dome.fernhollow.example\n',
    '.env.production.local': 'DOME_KEY=open-kq83-made-up\n',
    'a.template.txt': '${DOME_URL}\n',
  }
  // No setting has DOME_PLACE, and a value refers to it.
  const environment = { DOME_URL: 'https://shell.fernhollow.example', DOME_PLACE: 'hill' }
  const urls = [
    'http://127.0.0.1:4200/hill',
    'https://rehearsal.fernhollow.example/a/long/path/to/the/dome',
    'https://dome.fernhollow.example',
  ]
  const told = /environment-left-out|has values of DOME_URL, which are left out|has values of DOME\\_URL/
  const several: Readonly<
    Record<string, readonly [words: readonly string[], made: (stdout: string, project: Project) => unknown]>
  > = {
    'mappa compare': [
      ['compare', '--json'],
      (stdout) =>
        JSON.parse(stdout)
          .settings.find((each: { name: string }) => each.name === 'DOME_URL')
          .values.map((each: { shown: string }) => each.shown),
    ],
    'mappa check --all': [
      ['check', '--all', '--json'],
      (stdout) =>
        JSON.parse(stdout).stages.map(
          (each: { settings: { name: string; value: string }[] }) =>
            each.settings.find(({ name }) => name === 'DOME_URL')!.value,
        ),
    ],
    'mappa fill --all': [
      ['fill', 'a.template.txt', '--all', '--out', 'a.{stage}.txt'],
      (_, { root }) =>
        ['development', 'staging', 'production'].map((stage) =>
          readFileSync(join(root, `a.${stage}.txt`), 'utf8').trim(),
        ),
    ],
    'mappa view': [
      ['view', '--format', 'markdown', '--out', 'a.md'],
      (_, { root }) =>
        /^\| `DOME_URL` \| `(.*)` \| `(.*)` \| `(.*)` \|$/m.exec(readFileSync(join(root, 'a.md'), 'utf8'))?.slice(1),
    ],
  }
  for (const [what, [words, made]] of Object.entries(several))
    it(`is that of one stage, so ${what} leaves its settings out, and says so`, (context) => {
      const project = makeProject(context, files)
      const { stdout, stderr } = project.mappa(words, environment)
      assert.deepEqual(made(stdout, project), urls, stderr)
      const report = what === 'mappa view' ? readFileSync(join(project.root, 'a.md'), 'utf8') : stdout + stderr
      assert.match(report, told)
      // One stage alone has it.
      const one = project.mappa(['show', 'DOME_URL', '--stage', 'staging'], environment)
      assert.match(one.stdout, /shell\.fernhollow\.example/)
    })

  for (const words of [
    ['fill', 'a.template.txt'],
    ['export', '--as', 'sh'],
  ])
    it(`is named where mappa ${words[0]} takes a value from it`, (context) => {
      const { stdout, stderr } = makeProject(context, files).mappa([...words, '--stage', 'staging'], environment)
      assert.match(stdout, /shell\.fernhollow\.example/)
      assert.match(stderr, /^From the environment of this process, not from files: DOME_URL$/m)
    })
})

describe('mappa compare', () => {
  it('says of each setting and stage how it stands, and shows no secret', (context) => {
    const { status, stdout, stderr } = dome(context).mappa(['compare'])
    assert.deepEqual([status, stderr], [1, ''])
    assert.match(
      stdout,
      /^6 settings in development, staging, production\n1 the same, 4 different, 1 not set, 2 with problems\n/,
    )
    const { DOME_KEY: key = [], ...rows } = rowsIn(stdout)
    assert.deepEqual(rows, {
      SERVER_PORT: ['≠', '4100 ↑', '4100 ↑', '41200'],
      DOME_URL: ['≠', 'http://12….0.1:4200', 'https://r…/the/dome', 'https://do…w.example'],
      DOME_ALARM: ['–', '–', '–', '–'],
      DOME_PATIENCE: ['=', '2s', '2s °', '2s °'],
      DOME_MOTORS: ['✗', 'false °', 'false °', '✗ maybe'],
    })
    const [sign, development, staging, production] = key
    assert.equal(sign, '✗')
    assert.match(development!, /^✗ secret [a-z0-9]{3}$/)
    assert.match(staging!, /^secret [a-z0-9]{3}$/)
    assert.equal(production, development)
    assert.notEqual(staging, development)
    assert.ok(!/kq83/.test(stdout))
    assert.ok(stdout.split('\n').every((line) => [...line].length <= 80))
  })

  it('gives secrets other marks in every run', (context) => {
    const project = dome(context)
    const marks = () => /DOME_KEY\s+secret (\w+)/.exec(project.mappa(['compare', 'development']).stdout)?.[1]
    assert.ok(new Set([marks(), marks(), marks(), marks()]).size > 1)
  })

  const rows: Readonly<Record<string, readonly [words: string[], names: string[]]>> = {
    'two stages': [
      ['development', 'staging'],
      ['SERVER_PORT', 'DOME_URL', 'DOME_KEY', 'DOME_ALARM', 'DOME_PATIENCE', 'DOME_MOTORS'],
    ],
    'what differs': [
      ['--only', 'different'],
      ['SERVER_PORT', 'DOME_URL', 'DOME_KEY', 'DOME_MOTORS'],
    ],
    'what differs in two stages': [
      ['development', 'staging', '--only', 'different'],
      ['DOME_URL', 'DOME_KEY'],
    ],
    'what has problems': [
      ['--only', 'problems'],
      ['DOME_KEY', 'DOME_MOTORS'],
    ],
    'what is missing': [['--only', 'missing'], []],
    'one stage': [['staging', '--only', 'different'], []],
    'two files': [
      ['.env.staging', '.env.production'],
      ['SERVER_PORT', 'DOME_URL', 'DOME_KEY', 'DOME_MOTORS'],
    ],
  }
  for (const [name, [words, names]] of Object.entries(rows)) {
    it(`shows ${name}`, (context) => {
      const { stdout } = dome(context).mappa(['compare', ...words])
      assert.deepEqual(Object.keys(rowsIn(stdout)), names, stdout)
      if (names.length === 0) assert.match(stdout, /No rows/)
    })
  }

  it('gives the same as data', (context) => {
    const { stdout } = dome(context).mappa(['compare', '--json', '--only', 'problems'])
    const { columns, settings, problems } = JSON.parse(stdout)
    assert.deepEqual(columns, ['development', 'staging', 'production'])
    const [key, motors] = settings
    assert.deepEqual([key.name, key.path, key.secret, key.relation], ['DOME_KEY', 'dome.key', true, 'different'])
    assert.deepEqual(
      key.values.map((each: { state: string }) => each.state),
      ['set', 'set', 'invalid'],
    )
    assert.ok(key.values.every((each: { shown: null }) => each.shown === null))
    assert.deepEqual(motors.values[2], {
      column: 'production',
      state: 'invalid',
      shown: 'maybe',
      mark: null,
      origin: { layer: '.env.production', file: '.env.production', line: 3, column: 13 },
      from: '.env.production:3',
      problems: ['not-boolean'],
    })
    assert.deepEqual(problems.map(({ code }: { code: string }) => code).sort(), [
      'not-boolean',
      'pattern-differs',
      'value-shared',
      'value-shared',
    ])
  })

  it('compares files by themselves, where nothing is declared too', (context) => {
    const project = makeProject(context, {
      a: 'DOME_URL=https://a.example\nNIGHT=1\nSAME=fog\nMAPS=${DOME_URL}/x\n',
      b: 'DOME_URL=https://b.example\nDAY=1\nSAME=fog\nMAPS=${DOME_URL}/x\n',
    })
    project.write('a.env', 'DOME_URL=https://a.example\nNIGHT=1\nSAME=fog\nMAPS="${DOME_URL}/x"\n')
    project.write('b.env', 'DOME_URL=https://b.example\nDAY=1\nSAME=fog\nMAPS="${DOME_URL}/x"\n')
    const { status, stdout } = project.mappa(['compare', './a.env', './b.env'])
    assert.equal(status, 0)
    const found = rowsIn(stdout)
    const absolute = ['a.env', 'b.env'].map((each) => join(project.root, each))
    assert.deepEqual(Object.keys(rowsIn(project.mappa(['compare', ...absolute]).stdout)), Object.keys(found))
    assert.deepEqual(
      Object.entries(found).map(([name, [sign]]) => `${sign} ${name}`),
      ['≠ DOME_URL', '≠ NIGHT', '= SAME', '= MAPS', '≠ DAY'],
    )
    // Nobody knows what is a secret here.
    assert.ok(!/example|fog/.test(stdout.replace(/a\.env|b\.env/g, '')))
    project.write('settings.definition.ts', DEFINITION)
    assert.match(
      project.mappa(['compare', './a.env', './b.env']).stdout,
      /DOME_URL +https:\/\/a\.example +https:\/\/b\.example/,
    )
  })

  const wrong: Readonly<Record<string, readonly [words: string[], status: number, stderr: RegExp]>> = {
    'a stage that does not exist': [['prod'], 2, /stage-unknown[\s\S]*Did you mean production/],
    'a file that does not exist': [
      ['.env.staging', '.env.prod'],
      2,
      /file-not-there[\s\S]*There is no file \.env\.prod/,
    ],
    'a stage and a file': [['staging', '.env'], 2, /stages-and-files/],
    'a directory': [['.env', './node_modules'], 1, /file-is-directory/],
    'rows of no kind': [['--only', 'broken'], 2, /Allowed choices are different, problems, missing/],
  }
  for (const [name, [words, status, stderr]] of Object.entries(wrong)) {
    it(`refuses ${name}`, (context) => {
      const found = dome(context).mappa(['compare', ...words])
      assert.equal(found.status, status)
      assert.match(found.stderr, stderr)
    })
  }

  it('fits many stages and long names into 80 columns', (context) => {
    const stages = ['development', 'staging', 'production', 'canary', 'load-test', 'eu-production', 'us-production']
    const mirrors = Array.from({ length: 6 }, (_, index) => [
      `mirror${'Of'.repeat(index)}Tower`,
      { kind: 'string', description: 'A mirror', default: `星空観測所${'x'.repeat(index * 20)}` },
    ])
    const definition = { stages, settings: { tower: Object.fromEntries(mirrors) } }
    const project = makeProject(context, { 'settings.definition.json': JSON.stringify(definition) })
    const { status, stdout } = project.mappa(['compare'])
    assert.equal(status, 0)
    for (const stage of stages) assert.match(stdout, new RegExp(`  ${stage.toUpperCase()}(?:  |\n)`))
    const wide = (line: string) => [...line].reduce((sum, each) => sum + (each > '\u2fff' ? 2 : 1), 0)
    assert.deepEqual(
      stdout
        .split('\n')
        .slice(1)
        .filter((line) => wide(line) > 80),
      [],
    )
  })
})
