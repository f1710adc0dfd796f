import assert from 'node:assert/strict'
import {
  chmodSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  symlinkSync,
  utimesSync,
} from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { DEFINITION, makeProject, type Project } from '@mappa/tests/support/project'

const KEY = 'drill-5J3kQ8zX1vB7nM2cT6yR'
const BY_HAND = 'written by hand\n'
const FILES = {
  'package.json': '{ "type": "module", "private": true }',
  'settings.definition.ts': DEFINITION,
  '.gitignore': '# ours\nnode_modules\n.env*.local\n',
  '.env': '# by hand\nDOME_URL=https://dome.fernhollow.example\nOWN=1\n',
  '.env.development.local': `# by hand\nDOME_KEY=${KEY}\n`,
  '.env.staging': '# by hand\n',
  'note.tpl': 'url: ${DOME_URL}\n',
  'src/app.js': `import { a } from './a.js'\nexport const stationUrl = 'https://weather.fernhollow.example/v1'\na(stationUrl)\n`,
  'src/a.js': 'export const a = (x) => x\n',
  'dist/index.html': BY_HAND,
  'notes.txt': BY_HAND,
}

/** What each command may touch; whatever else there is has to be as it was, and what it changes keeps its lines. */
interface Command {
  readonly words: readonly string[]
  readonly input?: string
  /** Files that it may make. */
  readonly makes: readonly string[]
  /** Files that it may change, without losing a line of them. */
  readonly adds?: readonly string[]
  /** Files of which it may replace what stands in them. */
  readonly changes?: readonly string[]
}

const COMMANDS: Readonly<Record<string, Command>> = {
  set: {
    words: ['set', 'DOME_URL', 'https://x.fernhollow.example', '--stage', 'staging'],
    makes: [],
    adds: ['.env.staging'],
  },
  'set, of a secret': {
    words: ['set', 'DOME_KEY', '--stage', 'production'],
    input: `${KEY}\n`,
    makes: ['.env.production.local'],
  },
  'set, of a value that is there': {
    words: ['set', 'DOME_URL', 'https://x.fernhollow.example'],
    makes: [],
    changes: ['.env'],
  },
  move: {
    words: ['move', '--all', '--yes', '--stage', 'staging'],
    makes: ['settings.ts', '.env.example'],
    adds: ['.env.staging'],
    changes: ['src/app.js', 'settings.definition.ts'],
  },
  fill: { words: ['fill', 'note.tpl', '--out', 'run/note.txt'], makes: ['run/note.txt'] },
  'fill, over what somebody wrote': { words: ['fill', 'note.tpl', '--out', 'notes.txt'], makes: [] },
  export: {
    words: ['export', '--as', 'json', '--with-secrets', '--out', 'run/all.json'],
    makes: ['run/all.json'],
    adds: ['.gitignore'],
  },
  'export, over what somebody wrote': { words: ['export', '--as', 'json', '--out', 'notes.txt'], makes: [] },
  'write example': { words: ['write', 'example'], makes: ['.env.example'] },
  'write schema': { words: ['write', 'schema'], makes: ['settings.schema.json', 'settings.environment.schema.json'] },
  init: { words: ['init', '--yes'], makes: ['.env.development', '.env.production', '.env.example'] },
  'guard --install': { words: ['guard', '--install'], makes: ['.git/hooks/pre-commit'] },
  'view --out': { words: ['view', '--out', 'report.html'], makes: ['report.html'] },
  'view --out, over what somebody wrote': { words: ['view', '--out', 'notes.txt'], makes: [] },
  survey: { words: ['survey'], makes: [] },
  check: { words: ['check', '--all'], makes: [] },
  run: { words: ['run', '--', 'true'], makes: [] },
}

/** Files at every place to which something could be written, by somebody else. */
const IN_THE_WAY: Readonly<Record<string, readonly string[]>> = {
  'write example': ['.env.example'],
  'write types': ['settings.env.d.ts'],
  'write modules': ['settings.modules.d.ts'],
  'write reference': ['docs/settings.md'],
  'write schema': ['settings.schema.json', 'settings.environment.schema.json'],
  'write definition-schema': ['settings.definition.schema.json'],
  'write --all': ['.env.example', 'settings.env.d.ts', 'docs/settings.md', 'settings.schema.json'],
}

function treeOf(directory: string, below = ''): Record<string, string> {
  return Object.fromEntries(
    readdirSync(join(directory, below)).flatMap((name) => {
      const file = join(below, name)
      // What git keeps for itself, but for its hooks, and what is made again at any time.
      if (/^(?:node_modules|\.git\/(?!hooks).*)$/.test(file)) return []
      const stats = lstatSync(join(directory, file))
      if (stats.isSymbolicLink()) return [[file, `-> ${readlinkSync(join(directory, file))}`]]
      return stats.isDirectory()
        ? Object.entries(treeOf(directory, file))
        : [[file, readFileSync(join(directory, file), 'latin1')]]
    }),
  )
}

function dome(context: TestContext, files: Record<string, string> = {}): Project {
  const project = makeProject(context, { ...FILES, ...files })
  chmodSync(join(project.root, '.env.development.local'), 0o600)
  project.git('init', '-q')
  return project
}

const linesOf = (text: string) => text.split('\n').filter((line) => line !== '')

/** Everything that was there is there as it was, but for what the command may add to or change. */
function assertKept(
  before: Record<string, string>,
  after: Record<string, string>,
  { adds = [], changes = [] }: Command,
) {
  for (const [file, text] of Object.entries(before)) {
    assert.ok(file in after, `${file} is gone`)
    const isAdded = adds.includes(file)
    for (const line of isAdded ? linesOf(text) : []) assert.ok(after[file]!.includes(line), `${file} lost ${line}`)
    if (!isAdded && !changes.includes(file)) assert.equal(after[file], text, file)
  }
}

describe('a command touches nothing but what is its own', () => {
  for (const [name, command] of Object.entries(COMMANDS))
    it(`mappa ${name}, once and again`, (context) => {
      const project = dome(context)
      const before = treeOf(project.root)
      for (let time = 1; time <= 2; time++) {
        project.mappa(command.words, {}, command.input)
        const after = treeOf(project.root)
        assertKept(before, after, command)
        const made = Object.keys(after).filter((file) => !(file in before) && !command.makes.includes(file))
        assert.deepEqual(made, [])
      }
    })

  for (const [command, files] of Object.entries(IN_THE_WAY))
    it(`mappa ${command} leaves what somebody else has written, and replaces what is its own`, (context) => {
      const words = command.split(' ')
      const project = dome(context, Object.fromEntries(files.map((file) => [file, BY_HAND])))
      const before = treeOf(project.root)
      const { status, stdout } = project.mappa(words)
      assert.deepEqual(treeOf(project.root), before)
      assert.equal(status, command === 'write --all' ? 0 : 1)
      assert.match(stdout, /was not written by mappa, so it stays as it is\./)
      assert.equal(project.mappa([...words, '--verify']).status, command === 'write --all' ? 0 : 1)
      assert.deepEqual(project.mappa([...words, '--force']).status, 0)
      for (const file of files) {
        const text = readFileSync(join(project.root, file), 'utf8')
        assert.match(text, /Generated by `?mappa write /, file)
        project.write(file, text.replace('Generated by', 'Old. Generated by'))
      }
      assert.equal(project.mappa(words).status, 0)
      for (const file of files) assert.doesNotMatch(readFileSync(join(project.root, file), 'utf8'), /Old\./)
    })

  it('no link is followed to write something', (context) => {
    const outside = makeProject(context, { 'own.txt': BY_HAND, 'settings.md': BY_HAND })
    const commands: readonly (readonly [link: string, target: string, words: readonly string[]])[] = [
      [
        '.env.staging',
        join(outside.root, 'own.txt'),
        ['set', 'DOME_URL', 'https://x.fernhollow.example', '--stage', 'staging'],
      ],
      ['.env.production.local', join(outside.root, 'own.txt'), ['set', 'DOME_KEY', '--stage', 'production']],
      ['.env.example', join(outside.root, 'own.txt'), ['write', 'example', '--force']],
      ['docs', outside.root, ['write', 'reference', '--force']],
      ['run', outside.root, ['fill', 'note.tpl', '--out', 'run/own.txt', '--force']],
      ['all.json', join(outside.root, 'own.txt'), ['export', '--as', 'json', '--out', 'all.json', '--force']],
      ['.gitignore', join(outside.root, 'own.txt'), ['set', 'DOME_KEY', '--stage', 'production']],
      ['report.html', join(outside.root, 'own.txt'), ['view', '--out', 'report.html']],
      ['.git/hooks', outside.root, ['guard', '--install']],
    ]
    for (const [link, target, words] of commands) {
      const project = makeProject(context, Object.fromEntries(Object.entries(FILES).filter(([file]) => file !== link)))
      project.git('init', '-q')
      project.git('config', 'core.hooksPath', '.git/hooks')
      for (const each of ['.git/hooks']) if (link === each) project.git('config', 'core.hooksPath', '.own-hooks')
      symlinkSync(target, join(project.root, link === '.git/hooks' ? '.own-hooks' : link))
      const { status, stderr } = project.mappa(words, {}, `${KEY}\n`)
      assert.equal(status, 1, `${words.join(' ')}: ${stderr}`)
      assert.match(stderr, /link|outside/)
      const { 'own.txt': own, 'settings.md': reference } = treeOf(outside.root)
      assert.deepEqual(
        [own, reference, 'pre-commit' in treeOf(outside.root)],
        [BY_HAND, BY_HAND, false],
        words.join(' '),
      )
    }
  })

  it('a directory that is called like a lock stays, whatever its time says', (context) => {
    const project = dome(context)
    mkdirSync(join(project.root, '.env.staging.lock'))
    project.write('.env.staging.lock/notes.txt', BY_HAND)
    const future = new Date(Date.now() + 1e9)
    utimesSync(join(project.root, '.env.staging.lock'), future, future)
    const { stderr } = project.mappa(['set', 'DOME_URL', 'https://x.fernhollow.example', '--stage', 'staging'])
    assert.match(stderr, /lock-in-the-way/)
    assert.equal(readFileSync(join(project.root, '.env.staging.lock/notes.txt'), 'utf8'), BY_HAND)
  })
})
