import assert from 'node:assert/strict'
import { type ChildProcess, spawn } from 'node:child_process'
import {
  chmodSync,
  existsSync,
  linkSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { COMMAND, DEFINITION, makeProject, type Project, run } from '@mappa/tests/support/project'
import { defineSettings, setting } from 'mappa-settings'
import { watchSettings } from 'mappa-settings/node'

const SECRET = 'open-kq83-made-up'
const FILES = { 'settings.definition.mjs': DEFINITION, '.env': 'SERVER_PORT=4101\n' }
const SET = ['set', 'SERVER_PORT', '4102'] as const
const modeOf = ({ root }: Project, file: string) => (statSync(join(root, file)).mode & 0o777).toString(8)
const read = ({ root }: Project, file: string) => readFileSync(join(root, file), 'utf8')

/** What is in the way, the command, what it ends with, and what it says. */
const OBSTACLES: readonly (readonly [string, (project: Project) => void, readonly string[], number, RegExp])[] = [
  ['a pipe as .env', ({ root }) => pipe(root, '.env'), SET, 1, /neither a file nor a link/],
  ['a pipe as package.json', ({ root }) => pipe(root, 'package.json'), ['check'], 1, /package\.json is neither a file/],
  [
    'a pipe as the definition',
    ({ root }) => pipe(root, 'settings.definition.mjs'),
    ['check'],
    1,
    /settings\.definition\.mjs is neither/,
  ],
  [
    'a pipe as .env before anything is set up',
    ({ root }) => {
      rmSync(join(root, 'settings.definition.mjs'))
      pipe(root, '.env')
    },
    ['init', '--yes'],
    1,
    /neither a file/,
  ],
  ['a pipe under what is written', ({ root }) => pipe(root, '.env.example'), ['write', 'example'], 1, /neither a file/],
  [
    'a device as .env',
    ({ root }) => {
      rmSync(join(root, '.env'))
      symlinkSync('/dev/zero', join(root, '.env'))
    },
    SET,
    1,
    /neither a file/,
  ],
  [
    'a link to itself beside what is guarded',
    ({ root }) => symlinkSync('.env.staging', join(root, '.env.staging')),
    ['guard'],
    1,
    /\.env\.staging can't be read: ELOOP/,
  ],
  [
    'a link to itself as the definition',
    ({ root }) => {
      rmSync(join(root, 'settings.definition.mjs'))
      symlinkSync('settings.json', join(root, 'settings.json'))
    },
    ['check', '--settings', 'settings.json'],
    1,
    /settings\.json can't be read: ELOOP/,
  ],
  [
    'a definition that is never done',
    ({ write }) => write('settings.definition.mjs', 'await new Promise(() => {})'),
    ['check'],
    1,
    /definition-unsettled[\s\S]*Remove the await/,
  ],
  [
    'a second name of the file',
    ({ root }) => linkSync(join(root, '.env'), join(root, 'other')),
    SET,
    1,
    /2 names of the same file/,
  ],
  ['write protection', ({ root }) => chmodSync(join(root, '.env'), 0o444), SET, 1, /write-protected/],
  ['a file called like the lock', ({ write }) => write('.env.lock', 'x'), SET, 1, /\.env\.lock is in the way/],
  ['a lock of a program that was killed', ({ root }) => lock(root, -20_000), SET, 0, /is set in/],
  ['a lock from the future', ({ root }) => lock(root, 3_600_000), SET, 0, /is set in/],
]

function pipe(root: string, file: string): void {
  rmSync(join(root, file), { force: true })
  run('mkfifo', [file], root)
}

function lock(root: string, ahead: number): void {
  mkdirSync(join(root, '.env.lock'))
  const time = (Date.now() + ahead) / 1000
  utimesSync(join(root, '.env.lock'), time, time)
}

describe('a command says what is in its way', () => {
  for (const [what, prepare, words, status, told] of OBSTACLES) {
    it(what, (context) => {
      const project = makeProject(context, FILES)
      prepare(project)
      const outcome = project.mappa(words)
      assert.equal(outcome.status, status, outcome.stderr)
      assert.match(outcome.stderr + outcome.stdout, told)
      assert.deepEqual(
        readdirSync(project.root).filter((file) => /draft/.test(file)),
        [],
      )
    })
  }

  it('a current directory that was deleted', (context) => {
    const { root } = makeProject(context, {})
    const script = `mkdir gone && cd gone && rmdir ../gone && exec '${process.execPath}' '${COMMAND}' check`
    const outcome = run('sh', ['-c', script], root)
    assert.equal(outcome.status, 1)
    assert.match(outcome.stderr, /The current directory does not exist any more/)
    assert.doesNotMatch(outcome.stderr, /\n {4}at /)
  })

  it('a directory that the permission model hides', (context) => {
    const project = makeProject(context, {
      ...FILES,
      'start.mjs': `import { loadSettings } from 'mappa-settings/node'\nimport definition from './settings.definition.mjs'\nloadSettings(definition, { onErrors: 'exit' })`,
    })
    const allowed = [
      `--allow-fs-read=${join(project.root, 'start.mjs')}`,
      `--allow-fs-read=${join(project.root, 'settings.definition.mjs')}`,
      `--allow-fs-read=${join(project.root, 'node_modules')}/*`,
      `--allow-fs-read=${join(import.meta.dirname, '..')}/*`,
    ]
    const flag = process.allowedNodeEnvironmentFlags.has('--permission') ? '--permission' : '--experimental-permission'
    const outcome = run(
      process.execPath,
      [flag, ...allowed, '--preserve-symlinks', '--preserve-symlinks-main', 'start.mjs'],
      project.root,
    )
    assert.match(outcome.stderr, /root-denied[\s\S]*--allow-fs-read=/)
    assert.equal(outcome.status, 78)
  })
})

describe('writing', () => {
  it('removes the draft of a killed writer, which git and tools never saw', (context) => {
    const project = makeProject(context, { ...FILES, '.gitignore': '.env.local\n.env.*.local\n' })
    project.git('init')
    // Where a writer is killed right before the change of names, this is what it leaves.
    const script = `const fs = process.getBuiltinModule('node:fs')\nfs.renameSync = () => process.kill(process.pid, 'SIGKILL')`
    project.write('kill.mjs', script)
    for (let time = 0; time < 2; time++)
      run(process.execPath, ['--import', './kill.mjs', COMMAND, ...SET], project.root)
    const drafts = () => readdirSync(project.root).filter((file) => file.includes('draft'))
    assert.equal(drafts().length, 1)
    assert.doesNotMatch(project.git('status', '--porcelain', '-uall'), /draft/)
    assert.match(drafts()[0]!, /^\.env\..*\.local$/)
    assert.equal(project.mappa(SET).status, 0)
    assert.deepEqual([drafts(), read(project, '.env')], [[], 'SERVER_PORT=4102\n'])
  })

  it('keeps what an editor saves in between', (context) => {
    const project = makeProject(context, FILES)
    project.write(
      'edit.mjs',
      `const fs = process.getBuiltinModule('node:fs')
const { fsyncSync } = fs
fs.fsyncSync = (file) => { fsyncSync(file); fs.fsyncSync = fsyncSync; fs.appendFileSync('.env', 'DOME_MOTORS=yes\\n') }`,
    )
    const outcome = run(process.execPath, ['--import', './edit.mjs', COMMAND, ...SET], project.root)
    assert.equal(outcome.status, 0, outcome.stderr)
    assert.equal(read(project, '.env'), 'SERVER_PORT=4102\nDOME_MOTORS=yes\n')
  })

  it('lets nobody else read a file that a secret goes into, and says so', (context) => {
    const project = makeProject(context, { ...FILES, '.env.staging.local': 'SERVER_PORT=1\n' })
    chmodSync(join(project.root, '.env.staging.local'), 0o644)
    const { stdout } = project.mappa(['set', 'DOME_KEY', '--stage', 'staging'], {}, SECRET)
    assert.match(stdout, /Other users could read the file\. Its mode is now 600/)
    assert.equal(modeOf(project, '.env.staging.local'), '600')
  })
})

describe('what was kept for the next time', () => {
  const CACHE = 'node_modules/.cache/mappa/settings.definition.ts.json'
  const evil = `require('node:fs').writeFileSync('ran', ''); exports.default = undefined`
  const cases: readonly (readonly [string, (project: Project) => void])[] = [
    ['lies where others can write', ({ root }) => chmodSync(join(root, 'node_modules/.cache/mappa'), 0o777)],
    ['can be written by others', ({ root }) => chmodSync(join(root, CACHE), 0o666)],
    ['has a second name', ({ root }) => linkSync(join(root, CACHE), join(root, 'other'))],
    [
      'is a link',
      ({ root }) => {
        renameSync(join(root, CACHE), join(root, 'other'))
        symlinkSync(join(root, 'other'), join(root, CACHE))
      },
    ],
  ]
  for (const [what, change] of cases) {
    it(`is not run when it ${what}`, (context) => {
      const project = makeProject(context, {
        'settings.definition.ts': DEFINITION,
        '.env': 'DOME_URL=http://127.0.0.1\nDOME_KEY=made-up-for-tests\n',
      })
      assert.equal(project.mappa(['check']).status, 0)
      const cached = JSON.parse(read(project, CACHE)) as object
      writeFileSync(join(project.root, CACHE), JSON.stringify({ ...cached, code: evil }))
      change(project)
      assert.equal(project.mappa(['check']).status, 0)
      assert.ok(!existsSync(join(project.root, 'ran')))
    })
  }
  it('is not looked for above the project', (context) => {
    const project = makeProject(context, {
      'inner/package.json': '{ "type": "module" }',
      'inner/settings.definition.ts': DEFINITION,
      'inner/.env': 'DOME_URL=http://127.0.0.1\nDOME_KEY=made-up-for-tests\n',
    })
    run(process.execPath, [COMMAND, 'check'], join(project.root, 'inner'))
    assert.ok(!existsSync(join(project.root, 'node_modules/.cache')))
    assert.ok(existsSync(join(project.root, 'inner', CACHE)))
  })
})

describe('git', () => {
  for (const words of [
    ['survey'],
    ['move', '--all', '--yes'],
    ['guard'],
    ['guard', '--history'],
    ['guard', '--staged'],
    ['init', '--yes'],
    ['set', 'DOME_KEY', '--stage', 'staging', '--random', '24'],
  ]) {
    it(`runs no command that a repository names: mappa ${words.join(' ')}`, (context) => {
      const project = makeProject(context, { 'settings.definition.mjs': DEFINITION, 'a.js': 'listen(4100)\n' })
      project.git('init')
      project.git('add', 'a.js')
      project.git('commit', '-qm', 'x')
      for (const each of ['core.fsmonitor', 'core.pager', 'diff.external', 'gpg.program', 'core.sshCommand'])
        project.git('config', each, `${join(project.root, 'evil.sh')}`)
      project.git('config', 'log.showSignature', 'true')
      project.write('evil.sh', `#!/bin/sh\ntouch '${project.root}/ran'\n`)
      chmodSync(join(project.root, 'evil.sh'), 0o755)
      project.mappa(words)
      assert.ok(!existsSync(join(project.root, 'ran')))
    })
  }
})

it('runs nothing that stands in an env file', (context) => {
  const values = [
    '$(touch RUN)',
    '`touch RUN`',
    '"$(touch RUN)"',
    '<(touch RUN)',
    '!touch RUN',
    '${A:-$(touch RUN)}',
    '@RUN.sh',
  ]
  const lines = values.map((value, at) => `V${at}=${value}`).concat('touch RUN', '. ./RUN.sh', 'V=1; touch RUN')
  const project = makeProject(context, {
    'settings.definition.json': JSON.stringify({
      settings: Object.fromEntries(
        values.map((_, at) => [`v${at}`, { kind: 'string', description: 'A text', optional: true }]),
      ),
    }),
    '.env': `${lines.join('\n')}\n`,
    'RUN.sh': 'touch RUN\n',
  })
  for (const words of [['check'], ['show'], ['run', '--', 'true'], ['export', '--as', 'sh'], ['guard']])
    project.mappa(words)
  assert.ok(!existsSync(join(project.root, 'RUN')))
})

describe('what is printed', () => {
  const hidden = '\u001b[2J\u061c\u00ad\u180e\u3164\u034f\u{e0041}\u202e'
  const cases: readonly (readonly [string, readonly string[]])[] = [
    ['the path of a directory', ['show', 'DOME_URL']],
    ['--out-dir', ['write', 'example', '--out-dir', `x${hidden}`]],
    ['an unknown option', ['check', `--x${hidden}`]],
    ['an unknown command', [`x${hidden}`]],
    ['an unknown stage', ['check', '--stage', `x${hidden}`]],
    ['a definition', ['check', '--settings', `x${hidden}.ts`]],
    ['JSON', ['check', '--json']],
  ]
  for (const [what, words] of cases) {
    it(`is visible: ${what}`, (context) => {
      const project = makeProject(context, {
        'settings.definition.mjs': DEFINITION.replace('Address of', `Add${hidden}ress of`).replace(
          '})\n',
          `}, { directory: './x${hidden}' })\n`,
        ),
        '.env': `DOME_URL="http://${hidden}"\n`,
      })
      const { stdout, stderr } = project.mappa(words)
      assert.doesNotMatch(stdout + stderr, /(?!\n)[\p{Cc}\p{Cf}\p{Default_Ignorable_Code_Point}]/u)
      if (what === 'JSON') assert.ok(JSON.parse(stdout).problems.length > 0)
    })
  }
  it('and so is what is written for people', (context) => {
    const project = makeProject(context, {
      'settings.definition.mjs': DEFINITION.replace('Address of', `Add${hidden}ress */ of`),
    })
    for (const what of ['example', 'types']) project.mappa(['write', what])
    const text = read(project, '.env.example') + read(project, 'settings.env.d.ts')
    assert.doesNotMatch(text, /(?!\n)[\p{Cc}\p{Cf}\p{Default_Ignorable_Code_Point}]/u)
  })
})

const watched = defineSettings({ places: setting.integer('Places at the eyepiece', { default: 1 }) })

/** Waits until a value arrives; the test runner ends a test that waits in vain. */
function watching(context: TestContext, root: string, options: { directory?: string } = {}) {
  const seen: number[] = []
  let told: (() => void) | undefined
  const settings = watchSettings(
    watched,
    ({ places }) => {
      seen.push(places)
      told?.()
    },
    { root, environment: {}, ...options },
  )
  context.after(settings.stop)
  const arrives = async (value: number) => {
    while (settings.current.places !== value) await new Promise<void>((resolve) => (told = resolve))
  }
  return { seen, arrives }
}

it('tells of options in the place of the function that is to be called', () => {
  assert.throws(
    () => watchSettings(watched, { environment: { PLACES: '2' } } as never),
    (error: { problems: { code: string }[] }) => error.problems[0]?.code === 'callback-wrong',
  )
})

const CHANGES: readonly (readonly [string, Record<string, string>, (root: string) => void, { directory?: string }?])[] =
  [
    ['the target of a link', { 'real/env': 'PLACES=2' }, (root) => writeFileSync(join(root, 'real/env'), 'PLACES=3')],
    [
      'a link in the middle, as orchestrators switch it',
      { 'v1/.env': 'PLACES=2', 'v2/.env': 'PLACES=3' },
      (root) => {
        symlinkSync('v2', join(root, '..data.new'))
        renameSync(join(root, '..data.new'), join(root, '..data'))
      },
    ],
    [
      'a directory that appears',
      { '.env': 'PLACES=2' },
      (root) => {
        mkdirSync(join(root, 'secrets'))
        writeFileSync(join(root, 'secrets/PLACES'), '3')
      },
      { directory: './secrets' },
    ],
    [
      'a directory that is replaced',
      { '.env': '', 'secrets/PLACES': '2', 'other/PLACES': '3' },
      (root) => {
        renameSync(join(root, 'secrets'), join(root, 'old'))
        renameSync(join(root, 'other'), join(root, 'secrets'))
      },
      { directory: './secrets' },
    ],
    [
      'a mounted directory whose link is switched',
      { '.env': '', 'v1/PLACES': '2', 'v2/PLACES': '3' },
      (root) => {
        symlinkSync('v2', join(root, 'next'))
        renameSync(join(root, 'next'), join(root, 'secrets'))
      },
      { directory: './secrets' },
    ],
    [
      'a file that is replaced',
      { '.env': 'PLACES=2', next: 'PLACES=3' },
      (root) => renameSync(join(root, 'next'), join(root, '.env')),
    ],
  ]

describe('watching', () => {
  for (const [what, files, change, options] of CHANGES) {
    it(`finds ${what}`, { timeout: 20_000 }, async (context) => {
      const { root } = makeProject(context, files)
      if ('real/env' in files) symlinkSync('real/env', join(root, '.env'))
      if ('v1/.env' in files) {
        symlinkSync('v1', join(root, '..data'))
        symlinkSync('..data/.env', join(root, '.env'))
      }
      if ('v1/PLACES' in files) symlinkSync('v1', join(root, 'secrets'))
      const { seen, arrives } = watching(context, root, options)
      change(root)
      await arrives(3)
      assert.deepEqual(seen, [3])
      // And the next one as well.
      const file = existsSync(join(root, 'secrets')) ? ['secrets/PLACES', '4'] : ['.env', 'PLACES=4']
      writeFileSync(join(root, file[0]!), file[1]!)
      await arrives(4)
    })
  }

  it('hands out no default while a file is replaced by deleting it first', { timeout: 20_000 }, async (context) => {
    const { root } = makeProject(context, { '.env': 'PLACES=2' })
    const { seen, arrives } = watching(context, root)
    rmSync(join(root, '.env'))
    await new Promise((resolve) => setTimeout(resolve, 150))
    writeFileSync(join(root, '.env'), '')
    await new Promise((resolve) => setTimeout(resolve, 50))
    writeFileSync(join(root, '.env'), 'PLACES=3')
    await arrives(3)
    assert.deepEqual(seen, [3])
    rmSync(join(root, '.env'))
    await arrives(1)
  })

  it('tells of changes while they go on', { timeout: 20_000 }, async (context) => {
    const { root } = makeProject(context, { '.env': 'PLACES=2' })
    const { seen } = watching(context, root)
    let value = 10
    const timer = setInterval(() => writeFileSync(join(root, '.env'), `PLACES=${value++}`), 15)
    context.after(() => clearInterval(timer))
    while (seen.length < 2) await new Promise((resolve) => setTimeout(resolve, 20))
    // Still at it: nothing has waited for the end.
    assert.ok(seen[1]! < value && seen[0]! < seen[1]!)
  })

  it('stays with the directory it began in, and needs no watches of the system', {
    timeout: 20_000,
  }, async (context) => {
    const project = makeProject(context, {
      ...FILES,
      'settings.definition.mjs': `import { defineSettings, setting } from 'mappa-settings'\nexport default defineSettings({ server: { port: setting.port('x') } })`,
      'watch.mjs': `const fs = process.getBuiltinModule('node:fs')
fs.watch = () => { throw Object.assign(new Error('no watches left'), { code: 'ENOSPC' }) }
const { watchSettings } = await import('mappa-settings/node')
const { default: definition } = await import('./settings.definition.mjs')
const settings = watchSettings(definition, ({ server }) => { console.log('now ' + server.port); settings.stop() })
process.chdir('/')
console.log('ready')`,
    })
    const child: ChildProcess = spawn(process.execPath, ['watch.mjs'], {
      cwd: project.root,
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    let text = ''
    child.stdout!.on('data', (piece) => {
      if (text === '') project.write('.env', 'SERVER_PORT=4109\n')
      text += piece
    })
    await new Promise((resolve) => child.on('close', resolve))
    assert.equal(text, 'ready\nnow 4109\n')
  })
})
