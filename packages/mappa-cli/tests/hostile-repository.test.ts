import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import { chmodSync, existsSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { findProgram } from '@mappa/node/git/programs'
import { DEFINITION, makeProject, type Project } from '@mappa/tests/support/project'

const KEY = 'q9Zr2mXw9LkT4vBn8PdS'
/** A package that can be published, so that npm is asked what it would carry along. */
const PUBLISHED = { 'package.json': '{ "name": "dome", "version": "1.0.0", "type": "module" }' }
const FILES = {
  'settings.definition.ts': DEFINITION,
  'package.json': '{ "name": "dome", "version": "1.0.0", "type": "module", "private": true }',
  '.gitignore': 'node_modules\n.env.local\n.env.*.local\n',
  '.env': 'DOME_URL=https://dome.fernhollow.example\n',
  '.env.production.local': `DOME_KEY=${KEY}\n`,
  '.env.development.local': 'DOME_KEY=drill-4411-drill\n',
  'a.txt': 'of the first commit\n',
  'src/main.js':
    "export const url = 'https://maps.fernhollow.example/tonight'\nexport const apiKey = 'zk_9QmX2Lv8K7TwRy4N'\n",
  'note.tpl': 'url = ${DOME_URL}\n',
  'note.txt': 'written by hand\n',
}

/** Every command that asks git, and whatever else reads or writes a repository. */
const COMMANDS: readonly (readonly string[])[] = [
  ['guard'],
  ['guard', '--history'],
  ['guard', '--staged'],
  ['guard', '--staged', '--repository'],
  ['guard', 'src'],
  ['survey'],
  ['check', '--all'],
  ['fill', 'note.tpl', '--out', 'note.txt'],
  ['export', '--as', 'json', '--with-secrets', '--out', 'note.txt', '--stage', 'production'],
  ['move', '--all', '--yes', '--stage', 'development'],
  ['set', 'DOME_KEY', '--stage', 'production'],
  ['guard', '--install'],
]

/** A way to have git run something: the configuration of a repository, and a plain command of git that it shows with. */
interface Trap {
  readonly how: string
  readonly config: (trap: (name: string) => string, root: string) => readonly (readonly [name: string, value: string])[]
  readonly files?: Readonly<Record<string, string>>
  /** True to damage an object that the history needs, so that git would fetch it. */
  readonly damaged?: boolean
  readonly shownBy: readonly string[]
}

const promisor = (url: string) =>
  [
    ['core.repositoryformatversion', '1'],
    ['extensions.partialClone', 'origin'],
    ['remote.origin.promisor', 'true'],
    ['remote.origin.url', url],
  ] as const

const TRAPS: readonly Trap[] = [
  {
    how: 'a monitor, hooks, filters, conversions, a pager, a signature check and an editor',
    config: (trap) => [
      ['core.fsmonitor', trap('fsmonitor')],
      ['core.hooksPath', 'hooks-of-a-stranger'],
      ['core.pager', trap('pager')],
      ['core.editor', trap('editor')],
      ['core.askPass', trap('askpass')],
      ['credential.helper', `!${trap('credential')}`],
      ['diff.external', trap('diff')],
      ['diff.own.textconv', trap('textconv')],
      ['diff.own.command', trap('command')],
      ['filter.own.clean', trap('clean')],
      ['filter.own.smudge', trap('smudge')],
      ['filter.own.process', trap('process')],
      ['filter.own.required', 'true'],
      ['gpg.program', trap('gpg')],
      ['log.showSignature', 'true'],
      ['core.alternateRefsCommand', trap('alternates')],
      ['uploadpack.packObjectsHook', trap('pack')],
    ],
    files: {
      ...PUBLISHED,
      '.gitattributes': '* diff=own filter=own\n',
      'hooks-of-a-stranger/pre-commit': '#!/bin/sh\ntouch "$PWD/PWNED-hook"\n',
      'hooks-of-a-stranger/post-index-change': '#!/bin/sh\ntouch "$PWD/PWNED-hook"\n',
    },
    shownBy: ['status'],
  },
  {
    how: 'a partial clone whose other side is a command',
    config: (trap, root) => [
      ...promisor(`file://${root}`),
      ['remote.origin.uploadpack', `${trap('uploadpack')};false`],
    ],
    damaged: true,
    shownBy: ['cat-file', '-p', 'HEAD~1:a.txt'],
  },
  {
    how: 'a partial clone by ssh, with a command of its own',
    config: (trap) => [...promisor('ssh://fern@dome.example/x'), ['core.sshCommand', `${trap('ssh')};false`]],
    damaged: true,
    shownBy: ['cat-file', '-p', 'HEAD~1:a.txt'],
  },
  {
    how: 'a partial clone by a command as its address',
    config: (trap) => [...promisor(`ext::${trap('ext').replaceAll("'", '')}`), ['protocol.ext.allow', 'always']],
    damaged: true,
    shownBy: ['cat-file', '-p', 'HEAD~1:a.txt'],
  },
  {
    how: 'a configuration that includes another file',
    config: () => [['include.path', '../config-of-a-stranger']],
    files: { 'config-of-a-stranger': '[core]\n\tfsmonitor = touch PWNED-included\n\thooksPath = nowhere\n' },
    shownBy: ['status'],
  },
]

/** A repository with two commits, whose files were all written by a stranger. */
function repository(context: TestContext, { config, files = {}, damaged }: Trap): Project {
  const project = makeProject(context, FILES)
  project.git('init', '-q')
  project.git('add', '-A')
  project.git('commit', '-qm', 'first')
  const [blob] = project.git('rev-parse', 'HEAD:a.txt').split('\n')
  project.git('rm', '-q', 'a.txt')
  project.git('commit', '-qm', 'second')
  project.write('src/staged.js', `export const key = '${KEY}'\n`)
  project.git('add', 'src/staged.js')
  for (const [file, text] of Object.entries(files)) {
    project.write(file, text)
    chmodSync(join(project.root, file), 0o755)
  }
  // Changed, so that git would have to look at what is in it.
  project.write('note.txt', 'written by hand, and changed\n')
  if (damaged === true) {
    const object = join(project.root, '.git/objects', blob!.slice(0, 2), blob!.slice(2))
    chmodSync(object, 0o644)
    writeFileSync(object, 'garbage')
  }
  const trap = (name: string) => `touch '${join(project.root, `PWNED-${name}`)}'`
  for (const [name, value] of config(trap, project.root)) project.git('config', '--add', name, value)
  return project
}

const pwned = (root: string) => readdirSync(root).filter((name) => name.startsWith('PWNED'))

describe('a repository of a stranger', () => {
  for (const trap of TRAPS)
    it(`runs nothing, with ${trap.how}`, (context) => {
      const shown = repository(context, trap)
      spawnSync('git', trap.shownBy, { cwd: shown.root, stdio: 'ignore' })
      assert.notDeepEqual(pwned(shown.root), [], 'the trap does not work')
      const project = repository(context, trap)
      for (const words of COMMANDS) {
        const { status, stderr } = project.mappa(words, {}, `${KEY}-new\n`)
        assert.deepEqual(pwned(project.root), [], words.join(' '))
        assert.ok([0, 1, 2].includes(status!), `${words.join(' ')}: ${status}\n${stderr}`)
        assert.doesNotMatch(stderr, /^\s+at /m, words.join(' '))
      }
    })

  it('reads no other directory, whatever its configuration names as its working tree', (context) => {
    const outside = makeProject(context, { 'notes.txt': `${KEY}\n`, 'deep/notes.js': `export const key = '${KEY}'\n` })
    const trap: Trap = { how: '', config: () => [['core.worktree', outside.root]], shownBy: [] }
    const project = repository(context, trap)
    for (const words of COMMANDS) {
      const { stdout, stderr } = project.mappa(words, {}, `${KEY}-new\n`)
      assert.doesNotMatch(stdout + stderr, /notes/, words.join(' '))
    }
    assert.ok(existsSync(join(outside.root, 'notes.txt')))
  })

  it('is no repository where it only looks like one', (context) => {
    const project = repository(context, TRAPS[4]!)
    for (const name of ['HEAD', 'objects', 'refs', 'index'])
      spawnSync('cp', ['-r', join(project.root, '.git', name), join(project.root, 'src', name)])
    rmSync(join(project.root, '.git'), { recursive: true })
    const tree = join(project.root, 'src')
    const config = `[core]\n\trepositoryformatversion = 0\n\tbare = false\n\tworktree = ${tree}\n\tfsmonitor = touch '${join(project.root, 'PWNED-bare')}'\n`
    project.write('src/config', config)
    project.write('src/settings.definition.ts', DEFINITION)
    project.write('src/package.json', '{ "type": "module" }')
    spawnSync('git', ['status'], { cwd: tree, stdio: 'ignore' })
    assert.deepEqual(pwned(project.root), ['PWNED-bare'], 'the trap does not work')
    rmSync(join(project.root, 'PWNED-bare'))
    for (const words of COMMANDS) project.mappa(['--root', 'src', ...words], {}, `${KEY}-new\n`)
    assert.deepEqual(pwned(project.root), [])
  })

  it('has no program started that lies in it', (context) => {
    const project = repository(context, { how: '', config: () => [], files: PUBLISHED, shownBy: [] })
    for (const name of [
      'git',
      'npm',
      'mkfifo',
      'node_modules/.bin/git',
      'node_modules/.bin/npm',
      'tools/git',
      'tools/npm',
    ]) {
      project.write(name, `#!/bin/sh\ntouch '${join(project.root, 'PWNED-program')}'\n`)
      chmodSync(join(project.root, name), 0o755)
    }
    const PATH = [
      '',
      '.',
      join(project.root, 'node_modules/.bin'),
      project.root,
      join(project.root, 'tools'),
      './tools',
      process.env['PATH'],
    ].join(':')
    for (const words of [
      ...COMMANDS,
      ['run', '--mask-output', '--stage', 'production', '--', process.execPath, '-e', '0'],
    ]) {
      project.mappa(words, { PATH }, `${KEY}-new\n`)
      assert.deepEqual(pwned(project.root), [], words.join(' '))
    }
  })
})

/** Where a program is found, by the variable PATH; the files that there are, and where git is. */
const PLACES: readonly [
  how: string,
  platform: NodeJS.Platform,
  directory: string,
  PATH: string,
  found: string | null,
  more?: Record<string, string>,
][] = [
  ['the first of two', 'linux', '/home/fern/dome', '/opt/bin:/usr/bin', '/opt/bin/git'],
  ['no relative entry', 'linux', '/home/fern/dome', ':.:bin:./bin:/usr/bin', '/usr/bin/git'],
  [
    'none of the repository',
    'linux',
    '/home/fern/dome/src',
    '/home/fern/dome/bin:/home/fern/dome:/usr/bin',
    '/usr/bin/git',
  ],
  [
    'none of packages, wherever they are',
    'linux',
    '/home/fern/dome',
    '/srv/node_modules/.bin:/usr/bin',
    '/usr/bin/git',
  ],
  [
    'one of a directory whose name only begins alike',
    'linux',
    '/home/fern/dome',
    '/home/fern/dome-tools:/usr/bin',
    '/home/fern/dome-tools/git',
  ],
  [
    'one of a directory named with two dots',
    'linux',
    '/home/fern/dome',
    '/home/fern/dome/..tools:/usr/bin',
    '/usr/bin/git',
  ],
  ['nothing', 'linux', '/home/fern/dome', '/home/fern/dome/bin', null],
  [
    'by extensions, and not in the current directory',
    'win32',
    'C:\\dome',
    'C:\\dome;.;C:\\Git\\cmd',
    'C:\\Git\\cmd\\git.EXE',
  ],
  [
    'by the extensions that there are',
    'win32',
    'C:\\dome',
    '"C:\\Git\\bin"',
    'C:\\Git\\bin\\git.CMD',
    { PATHEXT: '.CMD' },
  ],
  ['none of the repository', 'win32', 'C:\\dome\\src', 'C:\\dome\\bin;D:\\git', 'D:\\git\\git.COM'],
  ['nothing without an extension', 'win32', 'C:\\x', 'C:\\Git', null, { PATHEXT: ';' }],
]

describe('a program is found', () => {
  for (const [how, platform, directory, PATH, found, more = {}] of PLACES)
    it(`${how} (${platform})`, () => {
      // Everything is there that is asked for, but for a Windows directory with one program.
      const isProgram = (file: string) => !/\\Git\\cmd\\/.test(file) || file.endsWith('.EXE')
      const isRepository = (each: string) => /^(?:\/home\/fern\/dome|C:\\dome)$/.test(each)
      // Windows calls the variable as it likes.
      const environment = platform === 'win32' ? { Path: PATH, ...more } : { PATH, ...more }
      assert.equal(findProgram('git', directory, { platform, environment, isProgram, isRepository }), found)
    })

  it('as the system has it', () => {
    const directory = join(tmpdir(), 'nowhere')
    assert.match(findProgram('git', directory)!, /^\/.*\/git$/)
    assert.equal(findProgram('no-such-program', directory), null)
    assert.equal(findProgram('git', dirname(findProgram('git', directory)!)), null)
  })
})
