import assert from 'node:assert/strict'
import { spawn } from 'node:child_process'
import {
  chmodSync,
  chownSync,
  cpSync,
  existsSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import {
  COMMAND,
  commandForAll,
  DEFINITION,
  makeProject,
  openToAll,
  type Project,
  REPOSITORY,
  run,
} from '@mappa/tests/support/project'
import { atTerminal } from '@mappa/tests/support/terminal'

const KEY = 'drill-5J3kQ8zX1vB7nM2cT6yR'
const OTHER = 'drill-9W2pL6hD4sF8gK1jN5bV'
const read = ({ root }: Project, file: string) => readFileSync(join(root, file), 'utf8')

/** What a file becomes when everything in it moves. `<KEY>` stands for a secret. */
const REWRITES: Record<string, { file?: string; before: string; after: string; words?: string[] }> = {
  'a key, with the quotes, semicolons and kind of path of the file': {
    before: `import { a } from "./a.js";\nimport b from "b"; // b\n\nconst domeKey = "<KEY>"; // why\nsend(a, b, domeKey);\n`,
    after: `import { a } from "./a.js";\nimport b from "b"; // b\nimport { settings } from "./settings.js";\n\nconst domeKey = settings.dome.key.reveal(); // why\nsend(a, b, domeKey);\n`,
  },
  'line ends of Windows, a line for the shell, and a comment on top': {
    file: 'src/a.js',
    before: `#!/usr/bin/env node\r\n// Fernhollow\r\n\r\nconst domeKey = '<KEY>'\r\n`,
    after: `#!/usr/bin/env node\r\n// Fernhollow\r\n\r\nimport { settings } from './settings.ts'\r\n\r\nconst domeKey = settings.dome.key.reveal()\r\n`,
  },
  'templates, whose other parts stay': {
    before:
      'import x from "./x.ts"\nconst domeKey = `<KEY>`\nsend(`${x} \\` <KEY>/${x}<KEY>`, \'it\\\'s `<KEY>` ${x}\', "Bearer <KEY>")\n',
    after:
      'import x from "./x.ts"\nimport { settings } from "./settings.ts"\nconst domeKey = settings.dome.key.reveal()\nsend(`${x} \\` ${settings.dome.key.reveal()}/${x}${settings.dome.key.reveal()}`, `it\\\'s \\`${settings.dome.key.reveal()}\\` \\${x}`, `Bearer ${settings.dome.key.reveal()}`)\n',
  },
  'a value that a variable could replace goes with the variable': {
    before: `const key = process.env.DOME_KEY || '<KEY>'\nconst port = Number(process.env.PORT ?? 4100)\n`,
    after: `import { settings } from './settings.ts'\n\nconst key = settings.dome.key.reveal()\nconst port = settings.app.port\n`,
  },
  'the environment instead of settings, and types that stay': {
    words: ['--read', 'environment'],
    before: `const domeKey: string = '<KEY>'\nserver.listen(4100)\nconst serverPort = '4200'\n`,
    after: `const domeKey: string = process.env.DOME_KEY!\nserver.listen(Number(process.env.SERVER_PORT))\nconst serverPort = process.env.SERVER_PORT2!\n`,
  },
  'a port in quotes stays a text': {
    before: `const serverPort = '4100'\nif (x) return'<KEY>'in keys\nconst domeKey = '<KEY>'`,
    after: `import { settings } from './settings.ts'\n\nconst serverPort = String(settings.server.port)\nif (x) return settings.dome.key.reveal() in keys\nconst domeKey = settings.dome.key.reveal()`,
  },
  CommonJS: {
    file: 'a.cjs',
    before: `'use strict'\nconst fs = require('node:fs')\nconst domeKey = '<KEY>'\n`,
    after: `'use strict'\nconst fs = require('node:fs')\nconst { settings } = require('./src/settings.js')\nconst domeKey = settings.dome.key.reveal()\n`,
  },
  'CommonJS that calls require anywhere': {
    file: 'a.cjs',
    before: `const http = require('node:http')\nconst API_KEY = '<KEY>'\nconsole.log(API_KEY.length)\nconst path = require('node:path')\nuse(http, path)\n`,
    after: `const http = require('node:http')\nconst { settings } = require('./src/settings.js')\nconst API_KEY = settings.api.key.reveal()\nconsole.log(API_KEY.length)\nconst path = require('node:path')\nuse(http, path)\n`,
  },
  'CommonJS that requires on the same line': {
    file: 'a.cjs',
    before: `'use strict';\nrequire('./early.js');\nvar crypto = require('crypto'), SECRET = '<KEY>';\nuse(crypto, SECRET);\n`,
    after: `'use strict';\nconst { settings } = require('./src/settings.js');\nrequire('./early.js');\nvar crypto = require('crypto'), SECRET = settings.a.secret.reveal();\nuse(crypto, SECRET);\n`,
  },
  'CommonJS with all on one line': {
    file: 'a.cjs',
    before: `const fs = require('fs'); const API_KEY = '<KEY>'; use(fs, API_KEY);\n`,
    after: `const fs = require('fs');\nconst { settings } = require('./src/settings.js');\nconst API_KEY = settings.api.key.reveal(); use(fs, API_KEY);\n`,
  },
  'a name that is taken': {
    before: `const settings = { apiKey: '<KEY>' }\n`,
    after: `import { settings as loadedSettings } from './settings.ts'\n\nconst settings = { apiKey: loadedSettings.api.key.reveal() }\n`,
  },
  'an address and what lies below it': {
    before: `const domeUrl = 'https://dome.fernhollow.example'\nfetch(\`https://dome.fernhollow.example/turn/\${n}\`)\nfetch('https://dome.fernhollow.example/state')\nfetch('https://dome.fernhollow.example.org/')\n`,
    after: `import { settings } from './settings.ts'\n\nconst domeUrl = settings.dome.url\nfetch(\`\${settings.dome.url}/turn/\${n}\`)\nfetch(\`\${settings.dome.url}/state\`)\nfetch('https://dome.fernhollow.example.org/')\n`,
  },
}

describe('mappa move', () => {
  for (const [what, { file = 'src/a.ts', before, after, words = [] }] of Object.entries(REWRITES)) {
    it(`puts the reading in the place of the value: ${what}`, (context) => {
      const project = makeProject(context, {
        'tsconfig.json': '{}',
        'src/x.md': '',
        [file]: before.replaceAll('<KEY>', KEY),
      })
      // The only files with paths to others are those above.
      if (!/from|require/.test(before)) project.write('src/style.ts', "import './x.ts'\n")
      const outcome = project.mappa(['move', '--all', '--yes', ...words])
      assert.deepEqual([outcome.stderr, outcome.status], ['', 0])
      assert.equal(read(project, file), after)
      assert.ok(!outcome.stdout.includes(KEY))
    })
  }

  it('adds the setting to a definition as it is written, and uses a module that loads the settings already', (context) => {
    const definition = DEFINITION.replace('\n  server', '\n  // What people dial\n  server').replace(
      '  dome: {\n',
      '  dome: {\n    // the dome\n',
    )
    const project = makeProject(context, {
      'settings.definition.ts': definition,
      'config/load.ts':
        "import { loadSettings } from 'mappa-settings/node'\nimport definition from '../settings.definition.ts'\nexport const config = loadSettings(definition)\n",
      'a.ts': `import { config as all } from './config/load.ts'\nconst domeToken = '${KEY}'\nuse(all)\n`,
      'b.ts': `import './a.ts'\nconst domeToken = '${KEY}'\n`,
      'c.ts':
        "import './a.ts'\nconst serverUrl = 'https://fernhollow.example'\nconst weatherUrl = 'https://weather.fernhollow.example'\n",
      '.env.example': '# by hand\nDOME_URL=x',
    })
    const outcome = project.mappa(['move', '--all', '--yes', '--stage', 'staging'])
    assert.deepEqual([outcome.stderr, outcome.status], ['', 0])
    const expected = definition
      .replace('{ default: 4100 }) },', "{ default: 4100 }), url: setting.url('Server URL') },")
      .replace(
        '{ default: false }),\n  },\n',
        "{ default: false }),\n    token: setting.string('Dome token', { secret: true }),\n  },\n  weather: {\n    url: setting.url('Weather URL'),\n  },\n",
      )
    assert.equal(read(project, 'settings.definition.ts'), expected)
    assert.match(
      read(project, 'a.ts'),
      /^import \{ config as all \} from '.\/config\/load.ts'\nconst domeToken = all\.dome\.token\.reveal\(\)\n/,
    )
    assert.match(
      read(project, 'b.ts'),
      /import \{ config as settings \} from '.\/config\/load.ts'\nconst domeToken = settings\.dome/,
    )
    assert.equal(read(project, '.env.staging.local'), `DOME_TOKEN=${KEY}\n`)
    assert.equal(
      read(project, '.env.staging'),
      'SERVER_URL=https://fernhollow.example\nWEATHER_URL=https://weather.fernhollow.example\n',
    )
    assert.equal(statSync(join(project.root, '.env.staging.local')).mode & 0o777, 0o600)
    assert.match(
      read(project, '.env.example'),
      /^# by hand\nDOME_URL=x\n\n# Server URL\n.*\nSERVER_URL='<SERVER_URL>'\n\n# Dome token/,
    )
    assert.match(
      outcome.stdout,
      /development has no value yet for SERVER_URL, DOME_TOKEN, WEATHER_URL: mappa set SERVER_URL --stage development/,
    )
    assert.ok(!existsSync(join(project.root, 'settings.ts')))
  })

  it('knows a value that a setting has already, and takes one that has none', (context) => {
    const project = makeProject(context, {
      'settings.definition.json': JSON.stringify(
        {
          settings: {
            dome: {
              key: { kind: 'string', description: 'Key', secret: true },
              url: { kind: 'url', description: 'Dome' },
            },
          },
        },
        null,
        2,
      ),
      '.env.development.local': `DOME_KEY=${KEY}\n`,
      'a.mjs': `send('https://x.fernhollow.example/?key=${KEY}')\nconst apiKey = '${KEY}'\nconst domeUrl = 'https://dome.fernhollow.example'\nconst camera = { port: 4300 }\n`,
    })
    assert.equal(project.mappa(['move', '--all', '--yes']).status, 0)
    const definition = JSON.parse(read(project, 'settings.definition.json'))
    assert.deepEqual(Object.keys(definition.settings), ['dome', 'camera'])
    assert.deepEqual(definition.settings.camera, { port: { kind: 'port', description: 'Camera port' } })
    assert.equal(
      read(project, 'a.mjs'),
      "import { settings } from './settings.mjs'\n\nsend(`https://x.fernhollow.example/?key=${settings.dome.key.reveal()}`)\nconst apiKey = settings.dome.key.reveal()\nconst domeUrl = settings.dome.url\nconst camera = { port: settings.camera.port }\n",
    )
    assert.equal(read(project, '.env.development.local'), `DOME_KEY=${KEY}\n`)
    project.write('run.mjs', "globalThis.send = (text) => console.log(text.length)\nawait import('./a.mjs')\n")
    assert.equal(run(process.execPath, ['run.mjs'], project.root).stdout, `${34 + KEY.length}\n`)
  })

  it('leaves alone what it can not replace safely, and says so', (context) => {
    const project = makeProject(context, {
      'package.json': '{ "type": "module", "dependencies": { "mappa-settings": "*" } }',
      'index.html': '<script type="module" src="/src/page.ts"></script>',
      'src/page.ts': "import { map } from './map'\nmap()\n",
      'src/map.ts': `export const map = () => fetch('https://maps.fernhollow.example', { headers: { apiKey: '${OTHER}' } })\n`,
      'src/view.tsx': `export const View = () => <a data-key="${KEY}" />\n`,
      'src/a.ts': `const domeKey = '${KEY}' // not ${KEY}
@Dome({ key: '${KEY}' }) class A { '${KEY}' = 1 }
enum B { key = '${KEY}' }
const c = '${KEY}' as const
type C = '${KEY}'
sql\`\${c}${KEY}\`
const quiet = '${KEY}' // mappa-ignore: it opens nothing
`,
      'src/broken.ts': `const domeKey = '${KEY}'\nfunction ( {\n`,
      'ops/a.py': `DOME_KEY = "${KEY}"\n`,
      'data.json': `{ "domeKey": "${KEY}" }\n`,
      'README.md': `The key is ${KEY}.\n`,
    })
    const { status, stdout, stderr } = project.mappa(['move', '--all', '--yes', '--json'])
    assert.deepEqual([status, stderr], [1, ''])
    const { moved, left } = JSON.parse(stdout) as {
      moved: { name: string; places: object[] }[]
      left: { file: string; line: number; why: string }[]
    }
    assert.deepEqual(
      moved.map(({ name, places }) => [name, places.length]),
      [['DOME_KEY', 3]],
    )
    const reasons = left.map(({ file, line, why }) => `${file}:${line} ${why.split(' ').slice(0, 5).join(' ')}`).sort()
    assert.deepEqual(reasons, [
      'README.md:1 it is outside code that',
      "data.json:1 files of this kind can't",
      'src/a.ts:1 it is outside code that',
      'src/a.ts:2 it is a property name',
      'src/a.ts:3 an enum member must be',
      'src/a.ts:4 as const needs a literal',
      'src/a.ts:5 it is a type',
      'src/a.ts:6 it is part of a',
      'src/a.ts:7 it is outside code that',
      'src/broken.ts:1 it is outside code that',
      'src/map.ts:1 the file goes to the',
      'src/map.ts:1 the file goes to the',
      'src/view.tsx:1 the file goes to the',
    ])
    assert.ok(!stdout.includes(KEY) && !stdout.includes(OTHER))
    assert.match(read(project, 'src/map.ts'), new RegExp(OTHER))
    assert.ok(!existsSync(join(project.root, '.env.development')))
  })

  it('does nothing where nothing can move, a file outside of the project among it', (context) => {
    const other = makeProject(context, { 'a.js': `const apiKey = '${KEY}'\n` })
    const project = makeProject(context, { 'a.json': `{ "api_key": "${KEY}" }\n` })
    for (const [words, why] of [
      [[], "files of this kind can't read a variable"],
      [['--in', join(other.root, 'a.js')], 'it is outside the project'],
    ] as const) {
      const { status, stdout, stderr } = project.mappa(['move', '--all', '--yes', ...words])
      assert.deepEqual([status, stderr], [1, ''])
      assert.ok(stdout.includes(why) && stdout.includes('Nothing can be moved') && !stdout.includes(KEY))
    }
    assert.deepEqual(readdirSync(project.root).sort(), ['a.json', 'node_modules', 'package.json'])
  })

  it('shows everything first and writes nothing unless told, and moves what is asked for', async (context) => {
    const project = makeProject(context, {
      'a.ts': `const domeKey = '${KEY}'\nconst mailKey = '${OTHER}'\nserver.listen(4100)\n`,
      '.env.development.local': `OLD=${OTHER}\n`,
    })
    const shown = project.mappa(['move', 'DOME_KEY'])
    assert.equal(shown.status, 0)
    assert.match(
      shown.stdout,
      /\+DOME_KEY=\(secret, 26 characters\)[\s\S]*-const domeKey = '\(secret, 26 characters\)'\n[\s\S]*\+const domeKey = settings\.dome\.key\.reveal\(\)[\s\S]*Nothing was written/,
    )
    assert.ok(!shown.stdout.includes(KEY) && !shown.stdout.includes(OTHER))
    assert.equal(read(project, 'a.ts').includes(KEY), true)
    for (const [words, code] of [
      [['--yes'], 'findings-not-chosen'],
      [['9', '--yes'], 'finding-unknown'],
      [['--all', '--path', 'a.b'], 'one-finding-needed'],
      [['1', '--path', 'a.__proto__'], 'path-unusable'],
      [['1', '--stage', 'prod'], 'stage-unknown'],
    ] as const) {
      const refused = project.mappa(['move', ...words, '--json'])
      assert.deepEqual([refused.status, JSON.parse(refused.stdout).problems[0].code], [2, code])
    }
    const words = ['move', 'DOME_KEY', '--path', 'door.key', '--description', "Opens the dome's door", '--yes']
    assert.equal(project.mappa(words).status, 0)
    assert.match(
      read(project, 'settings.definition.ts'),
      /key: setting\.string\('Opens the dome\\'s door', \{ secret: true \}\)/,
    )
    assert.equal(read(project, '.env.development.local'), `OLD=${OTHER}\nDOOR_KEY=${KEY}\n`)
    const screen = await atTerminal(
      ['move'],
      project.root,
      ['move it, as', 'Description', 'move it, as', 'Write all'],
      ['', 'Post office', '\u001b[A', 'y'],
    )
    assert.match(screen, /Written/)
    assert.match(
      read(project, 'a.ts'),
      /settings\.door\.key[\s\S]*settings\.mail\.key\.reveal\(\)\nserver\.listen\(4100\)/,
    )
    assert.match(read(project, 'settings.definition.ts'), /'Post office'/)
  })

  it('names what it did not search for a secret that moves', (context) => {
    const project = makeProject(context, {
      'a.js': `const domeKey = '${KEY}'\n`,
      'night.log': `${'fog\n'.repeat(4_300_000)}${KEY}\n`,
    })
    symlinkSync(tmpdir(), join(project.root, 'plates'))
    project.write('.gitignore', 'node_modules\n')
    project.git('init')
    const said = project.mappa(['move', '--all'])
    assert.match(
      said.stdout,
      /Not searched for what is left: night\.log \(it has more than 16 MiB\), plates \(it is no regular file\)\./,
    )
    const { notSearched } = JSON.parse(project.mappa(['move', '--all', '--json']).stdout)
    assert.deepEqual(notSearched, [
      { file: 'night.log', why: 'it has more than 16 MiB' },
      { file: 'plates', why: 'it is no regular file' },
    ])
  })

  it('leaves everything as it is where an editor saves a file in between', (context) => {
    const source = `const domeKey = '${KEY}'\n`
    const project = makeProject(context, { 'a.js': source, 'b.js': source })
    project.write(
      'edit.mjs',
      `const fs = process.getBuiltinModule('node:fs')
const { fsyncSync } = fs
fs.fsyncSync = (file) => { fsyncSync(file); fs.fsyncSync = fsyncSync; fs.appendFileSync('b.js', '// a thought\\n') }`,
    )
    const words = ['--import', './edit.mjs', COMMAND, 'move', '--all', '--yes', '--json', '--in', 'a.js', 'b.js']
    const { status, stdout } = run(process.execPath, words, project.root)
    assert.deepEqual([status, JSON.parse(stdout).problems[0].code], [1, 'file-changed'], stdout)
    assert.deepEqual([read(project, 'a.js'), read(project, 'b.js')], [source, `${source}// a thought\n`])
    assert.deepEqual(readdirSync(project.root).sort(), ['a.js', 'b.js', 'edit.mjs', 'node_modules', 'package.json'])
  })

  it('writes all or nothing, has git ignore a secret first, and never loses the value', (context) => {
    const source = `const domeKey = '${KEY}'\n`
    const project = makeProject(context, {
      'a.js': source,
      'b/b.js': source,
      '.gitignore': 'node_modules',
      LICENSE: '',
    })
    project.git('init')
    chmodSync(join(project.root, 'b'), 0o555)
    openToAll(project.root)
    const nobody = process.getuid?.() === 0 ? 65534 : undefined
    if (nobody !== undefined)
      for (const file of ['', 'a.js', '.gitignore', 'b/b.js', '.git'])
        chownSync(join(project.root, file), nobody, nobody)
    const refused = run(
      process.execPath,
      [commandForAll(context), 'move', '--all', '--yes', '--json'],
      project.root,
      {},
      nobody,
    )
    assert.deepEqual([refused.status, JSON.parse(refused.stdout).problems[0].code], [1, 'file-unwritable'])
    assert.deepEqual([read(project, 'a.js'), read(project, 'b/b.js')], [source, source])
    assert.deepEqual(readdirSync(project.root).sort(), [
      '.git',
      '.gitignore',
      'LICENSE',
      'a.js',
      'b',
      'node_modules',
      'package.json',
    ])
    chmodSync(join(project.root, 'b'), 0o755)
    if (nobody !== undefined) for (const file of ['', '.git']) chownSync(join(project.root, file), 0, 0)
    assert.equal(project.mappa(['move', '--all', '--yes']).status, 0)
    assert.equal(read(project, '.gitignore'), 'node_modules\n.env.local\n.env.*.local\n')
    assert.deepEqual([project.mappa(['guard']).status, project.mappa(['check']).status], [0, 0])
    project.write('c.js', source)
    project.git('add', '-f', '.env.development.local')
    const tracked = project.mappa(['move', '--all', '--yes', '--json'])
    assert.deepEqual([tracked.status, JSON.parse(tracked.stdout).problems[0].code], [1, 'secret-file-tracked'])
    assert.equal(read(project, 'c.js'), source)
  })

  it('moves everything out of a whole program, whose own tests pass as they did', (context) => {
    const project = makeProject(context, {})
    cpSync(join(REPOSITORY, 'examples/dome-early'), project.root, { recursive: true })
    rmSync(join(project.root, 'node_modules'), { recursive: true })
    symlinkSync(join(REPOSITORY, 'node_modules'), join(project.root, 'node_modules'))
    project.write('.gitignore', 'node_modules\n')
    project.git('init')
    project.git('add', '-A')
    const ownTests = () => run('npm', ['test', '--silent'], project.root, { HOME: project.root })
    assert.match(ownTests().stdout, / pass 3\n. fail 0/)
    const { findings } = JSON.parse(project.mappa(['survey', '--json']).stdout) as { findings: { secret: boolean }[] }
    assert.deepEqual([findings.length, findings.filter(({ secret }) => secret).length], [5, 1])
    assert.equal(project.mappa(['move', '--all', '--yes']).status, 0)
    assert.match(ownTests().stdout, / pass 3\n. fail 0/)
    assert.deepEqual([project.mappa(['survey']).status, project.mappa(['check']).status], [0, 0])
    project.git('add', '-A')
    const value = /drill-\w+/.exec(read(project, '.env.development.local'))![0]
    for (const file of project.git('ls-files').trim().split('\n')) assert.ok(!read(project, file).includes(value), file)
  })

  it('can be ended at any moment: every file is old or new, and the value is somewhere', async (context) => {
    const source = `const domeKey = '${KEY}'\nserver.listen(4100)\n`
    const done = 'settings.dome.key.reveal()\nserver.listen(settings.server.port)\n'
    const project = makeProject(context, {})
    /** Begins anew, without anything that a program left behind that was ended. */
    const begin = () => {
      for (const file of readdirSync(project.root))
        if (!['node_modules', 'package.json'].includes(file)) rmSync(join(project.root, file), { recursive: true })
      project.write('a.mjs', source)
      project.write('b.mjs', source)
    }
    /** What is there when the command has been ended. */
    const assertNothingLost = () => {
      const [env, a, b] = ['.env.development.local', 'a.mjs', 'b.mjs'].map((file) =>
        existsSync(join(project.root, file)) ? read(project, file) : '',
      )
      for (const text of [a!, b!]) assert.ok(text === source || text.endsWith(done))
      if (a !== source || b !== source) assert.equal(env, `DOME_KEY=${KEY}\n`)
    }
    begin()
    const start = performance.now()
    assert.equal(project.mappa(['move', '--all', '--yes']).status, 0)
    const whole = performance.now() - start
    let ended = 0
    for (const part of [0.4, 0.6, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95]) {
      begin()
      const child = spawn(process.execPath, [COMMAND, 'move', '--all', '--yes'], { cwd: project.root, stdio: 'ignore' })
      setTimeout(() => child.kill('SIGKILL'), part * whole)
      await new Promise((resolve) => child.on('close', resolve))
      if (child.signalCode !== null) ended++
      assertNothingLost()
      // A lock that was left behind is taken over after ten seconds.
      for (const file of readdirSync(project.root).filter((each) => each.endsWith('.lock')))
        rmSync(join(project.root, file), { recursive: true })
      assert.equal(project.mappa(['move', '--all', '--yes']).status, 0)
      assert.equal(project.mappa(['check']).status, 0)
      for (const file of ['a.mjs', 'b.mjs']) assert.ok(read(project, file).endsWith(done))
    }
    assert.ok(ended > 0)
  })

  it('fills the environment of a program before it runs, and keeps it from running where something is missing', (context) => {
    const project = makeProject(context, {
      'settings.definition.ts': DEFINITION,
      '.env': 'DOME_URL=https://dome.fernhollow.example\n',
      '.env.development.local': `DOME_KEY=${KEY}\n`,
      'a.mjs': 'console.log(process.env.SERVER_PORT, process.env.DOME_URL, process.env.DOME_KEY.length)\n',
    })
    const start = (environment: Record<string, string>) =>
      run(process.execPath, ['--import', 'mappa-settings/preload', 'a.mjs'], project.root, environment)
    assert.equal(
      start({ DOME_URL: 'https://other.fernhollow.example' }).stdout,
      '4100 https://other.fernhollow.example 26\n',
    )
    const refused = start({ MAPPA_STAGE: 'staging' })
    assert.deepEqual([refused.status, refused.stdout], [78, ''])
    assert.match(refused.stderr, /DOME_KEY/)
  })
})
