import assert from 'node:assert/strict'
import { chmodSync, existsSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { deflateSync, gzipSync } from 'node:zlib'
import { makeProject, type Project, run } from '@mappa/tests/support/project'
import { zipSync } from 'fflate'

const SECRET = 'night-kq83-of-the-dome-4100'
const FILES = {
  'package.json': '{ "type": "module", "private": true }',
  'settings.definition.json': JSON.stringify({
    settings: { dome: { key: { kind: 'string', description: 'Key of the dome', secret: true } } },
  }),
  '.gitignore': 'node_modules\n.env*.local\n',
  '.env.production.local': `DOME_KEY=${SECRET}\n`,
  'fog.txt': 'fog\n',
  'deep/moon.txt': 'moon\n',
}

interface Report {
  readonly status: number | null
  readonly codes: readonly string[]
  readonly failed: readonly string[]
  readonly opaque: readonly string[]
  readonly told: string
}

/** A repository with one commit, in which the secret is in no file. */
function repository(context: TestContext, files: Record<string, string | Uint8Array> = {}): Project {
  const project = makeProject(context, { ...FILES, ...files })
  chmodSync(join(project.root, '.env.production.local'), 0o600)
  project.git('init', '-q')
  commit(project)
  return project
}

function commit(project: Project, message = 'next'): void {
  project.git('add', '-A')
  project.git('commit', '-q', '--allow-empty', '-m', message)
}

function guard(project: Project, ...words: string[]): Report {
  const { status, stdout } = project.mappa(['guard', '--json', ...words])
  const { problems, failed, opaque } = JSON.parse(stdout)
  const human = project.mappa(['guard', ...words])
  const told = human.stdout + human.stderr
  assert.equal(human.status, status)
  assert.ok(!told.includes(SECRET) && !stdout.includes(SECRET), told)
  return { status, codes: problems.map(({ code }: { code: string }) => code), failed, opaque, told }
}

const objectFile = (project: Project, object: string) =>
  join(project.root, '.git/objects', object.slice(0, 2), object.slice(2))
const removeObject = (project: Project, object: string) => rmSync(objectFile(project, object))

describe('what guard could not look at', () => {
  const DAMAGES: readonly (readonly [
    what: string,
    damage: (project: Project) => void,
    words: string[],
    why: RegExp,
  ])[] = [
    [
      'a version of a file that is lost',
      (project) => {
        const object = project.git('rev-parse', 'HEAD:fog.txt').trim()
        project.write('fog.txt', 'thin fog\n')
        commit(project)
        removeObject(project, object)
      },
      ['--history'],
      /object \w+: it is not in this clone/,
    ],
    [
      'a version of a file that is damaged',
      (project) => {
        const object = project.git('rev-parse', 'HEAD:fog.txt').trim()
        project.write('fog.txt', 'thin fog\n')
        commit(project)
        chmodSync(objectFile(project, object), 0o644)
        writeFileSync(objectFile(project, object), 'garbage')
      },
      ['--history'],
      /fog\.txt \(object \w+\): (?:it is not in this clone|git could not read it)/,
    ],
    [
      'a directory that is lost',
      (project) => {
        const object = project.git('rev-parse', 'HEAD:deep').trim()
        project.write('deep/moon.txt', 'new moon\n')
        commit(project)
        removeObject(project, object)
      },
      ['--history'],
      /not in this clone|git could not read it/,
    ],
    [
      'a commit that is lost',
      (project) => {
        const object = project.git('rev-parse', 'HEAD').trim()
        commit(project)
        removeObject(project, object)
      },
      ['--history'],
      /the list of what the history has: git could not read it/,
    ],
    [
      'a staged file that is lost',
      (project) => {
        project.write('fog.txt', 'thick fog\n')
        project.git('add', 'fog.txt')
        removeObject(project, project.git('rev-parse', ':fog.txt').trim())
      },
      ['--staged'],
      /fog\.txt: it is not in this clone/,
    ],
    [
      'an archive that is damaged',
      (project) => project.write('star.gz', gzipSync('x'.repeat(4000)).subarray(0, 30)),
      [],
      /star\.gz: it is damaged/,
    ],
    [
      'an archive that ends too early',
      (project) => {
        run('tar', ['-cf', 'all.tar', 'deep', 'fog.txt'], project.root)
        project.write('all.tar', readFileSync(join(project.root, 'all.tar')).subarray(0, 2100))
      },
      [],
      /all\.tar: it is damaged/,
    ],
  ]
  for (const [what, damage, words, why] of DAMAGES)
    it(`is told, and fails: ${what}`, (context) => {
      const project = repository(context)
      damage(project)
      const report = guard(project, ...words)
      assert.equal(report.status, 1, report.told)
      assert.ok(report.codes.includes('not-searched'), report.told)
      assert.match(report.failed.join('\n'), why)
      assert.match(report.told, /Guard: nothing found in what was scanned; .*\d failed\./)
    })

  it('runs nothing that a repository names to fetch what it lacks', (context) => {
    const project = repository(context)
    const object = project.git('rev-parse', 'HEAD:fog.txt').trim()
    project.write('fog.txt', 'thin fog\n')
    commit(project)
    removeObject(project, object)
    for (const [name, value] of Object.entries({
      'core.repositoryformatversion': '1',
      'extensions.partialClone': 'origin',
      'remote.origin.promisor': 'true',
      'remote.origin.url': `file://${project.root}`,
      'remote.origin.uploadpack': `touch ${project.root}/PWNED; false`,
    }))
      project.git('config', name, value)
    const report = guard(project, '--history')
    assert.equal(report.status, 1)
    assert.ok(!existsSync(join(project.root, 'PWNED')))
  })

  const OPAQUE: Readonly<Record<string, Uint8Array | string>> = {
    'a.png': Buffer.from('\x89PNG\r\n\x1a\n\0\0', 'latin1'),
    'a.pdf': '%PDF-1.7\n1 0 obj\n',
    'a.xz': Buffer.from('\xfd7zXZ\0\0', 'latin1'),
    'a.zst': Buffer.from('\x28\xb5\x2f\xfd\0', 'latin1'),
    'a.bin': Buffer.from([1, 2, 0, 4, 200, 255, 17, 0, 9]),
    // Brotli has no sign of its own, and of so little no NUL.
    'b.bin': Buffer.from('8b0680636c65617220736b7903', 'hex').fill(0xff, 4, 5),
    'old.txt': Buffer.from('ein s\xfc\xdfer\tAbend\r\n', 'latin1'),
    'in.zip': zipSync({ 'b.woff2': Buffer.from('wOF2\0\x01\0\0\0', 'latin1') }),
    'model.onnx': `version https://lfs.example/spec/v1\noid sha256:${'a'.repeat(64)}\nsize 12345\n`,
  }
  it('is counted by type, and fails only if that is asked for: what nothing here opens', (context) => {
    const project = repository(context, OPAQUE)
    const report = guard(project)
    assert.deepEqual([report.status, report.codes, report.failed], [0, [], []], report.told)
    assert.deepEqual(report.opaque, [
      'binary files of unknown formats (2)',
      'PDF documents (1)',
      'PNG images (1)',
      'Zstandard archives (1)',
      'fonts (1)',
      'pointers to content kept elsewhere (1)',
      'xz archives (1)',
    ])
    assert.match(report.told, /nothing found in what was scanned; 8 opaque\./)
    const strict = guard(project, '--strict')
    assert.deepEqual([strict.status, new Set(strict.codes)], [1, new Set(['not-understood'])])
    assert.equal(guard(project, '--staged').status, 0)
  })

  it('is counted where an archive is encrypted, and fails where that archive was named', (context) => {
    const bytes = Buffer.from(zipSync({ 'k.txt': Buffer.from('clear sky\n') }, { level: 0 }))
    // Bit 0 of the flags, in the header of the file and in the directory (APPNOTE 4.4.4).
    bytes[6]! |= 1
    bytes[bytes.indexOf('PK\x01\x02') + 8]! |= 1
    const project = repository(context, { 'night.zip': bytes })
    const report = guard(project)
    assert.deepEqual([report.status, report.opaque], [0, ['encrypted files (1)']], report.told)
    const named = guard(project, 'night.zip')
    assert.deepEqual([named.status, named.codes], [1, ['not-searched']], named.told)
    assert.deepEqual(named.failed, ['k.txt in night.zip: it is encrypted'])
  })

  it('is told without a secret in the name of a part, and fails where a directory lists nothing', (context) => {
    const bytes = Buffer.from(zipSync({ [`${SECRET}.txt`]: Buffer.from('clear sky\n') }, { level: 0 }))
    bytes[6]! |= 1
    bytes[bytes.indexOf('PK\x01\x02') + 8]! |= 1
    const empty = Buffer.from(zipSync({ 'k.txt': Buffer.from(SECRET) }))
    empty.fill(0, empty.lastIndexOf('PK\x05\x06') + 8, empty.lastIndexOf('PK\x05\x06') + 12)
    const project = repository(context, { 'night.zip': bytes, 'hidden.zip': empty })
    const report = guard(project, 'night.zip')
    assert.deepEqual(report.failed.toSorted(), [
      '(DOME_KEY) in night.zip: it is encrypted',
      'hidden.zip: it is damaged',
    ])
  })

  it('is nothing where all is text, whatever its encoding', (context) => {
    const text = 'fög over the dome\n'.repeat(20)
    const wide = Buffer.alloc(text.length * 4)
    for (let at = 0; at < text.length; at++) wide.writeUInt32LE(text.charCodeAt(at), at * 4)
    const report = guard(
      repository(context, {
        'utf8.txt': text,
        'utf16.txt': Buffer.from(`\ufeff${text}`, 'utf16le'),
        'utf16be.txt': Buffer.from(text, 'utf16le').swap16(),
        'utf32.txt': wide,
        'latin1.txt': Buffer.from(text, 'latin1'),
        'xx.txt': 'x\x9c is no archive',
        'bm.txt': 'BMW and MZ begin words, as do GIFs',
        'deflated.zz': deflateSync(text),
      }),
      '--history',
    )
    assert.deepEqual([report.failed, report.opaque], [[], []], report.told)
    assert.match(report.told, /Guard: nothing found\. Searched for one secret value\./)
  })
})

describe('what guard looks at', () => {
  const PLACES: readonly (readonly [where: string, put: (project: Project) => void, words: string[], code: string])[] =
    [
      ['the message of a tag', (it) => it.git('tag', '-a', 'v1', '-m', `of ${SECRET}`), ['--history'], 'secret-in-tag'],
      ['a note', (it) => it.git('notes', 'add', '-m', `of ${SECRET}`), ['--history'], 'secret-committed'],
      ['the message of a commit', (it) => commit(it, `of ${SECRET}`), ['--history'], 'secret-in-message'],
      [
        'a stash below another one',
        (it) => {
          it.write('fog.txt', SECRET)
          it.git('stash', '-q')
          it.write('fog.txt', 'thin')
          it.git('stash', '-q')
        },
        ['--history'],
        'secret-committed',
      ],
      [
        'a commit that only the reflog has',
        (it) => {
          it.write('fog.txt', SECRET)
          commit(it)
          it.git('reset', '-q', '--hard', 'HEAD~1')
        },
        ['--history'],
        'secret-committed',
      ],
      [
        'the name of a file, once',
        (it) => {
          it.write(`${SECRET}.txt`, 'x')
          commit(it)
          it.git('rm', '-q', `${SECRET}.txt`)
          commit(it)
        },
        ['--history'],
        'secret-in-file-name',
      ],
      [
        'a tracked file that is not on the disk',
        (it) => {
          it.write('key.txt', SECRET)
          commit(it)
          rmSync(join(it.root, 'key.txt'))
        },
        [],
        'secret-in-tracked',
      ],
      [
        'a tracked file that was cleaned, and not committed',
        (it) => {
          it.write('key.txt', SECRET)
          commit(it)
          it.write('key.txt', 'clean')
        },
        [],
        'secret-in-version',
      ],
      [
        'the last commit, where the file is staged without it',
        (it) => {
          it.write('key.txt', SECRET)
          commit(it)
          it.write('key.txt', 'clean')
          it.git('add', 'key.txt')
        },
        [],
        'secret-in-version',
      ],
      [
        'what is staged, and not on the disk any more',
        (it) => {
          it.write('key.txt', SECRET)
          it.git('add', 'key.txt')
          it.write('key.txt', 'clean')
        },
        [],
        'secret-in-version',
      ],
      [
        'the target of a link',
        (it) => {
          symlinkSync(`/nowhere/${SECRET}`, join(it.root, 'link'))
          it.git('add', 'link')
        },
        [],
        'secret-in-tracked',
      ],
      [
        'what is staged, seen from a directory that git is told to stay in',
        (it) => {
          it.git('config', 'diff.relative', 'true')
          it.write('key.txt', SECRET)
          it.git('add', 'key.txt')
        },
        ['--staged'],
        'secret-staged',
      ],
      [
        'the name of a staged file',
        (it) => {
          it.write(`${SECRET}.txt`, 'x')
          it.git('add', '-A')
        },
        ['--staged'],
        'secret-in-path',
      ],
      [
        'text in UTF-32',
        (it) => it.write('key.txt', Buffer.from([...SECRET].flatMap((each) => [0, 0, 0, each.charCodeAt(0)]))),
        [],
        'secret-in-tracked',
      ],
      ['text that zlib packed', (it) => it.write('key.zz', deflateSync(`fog ${SECRET}`)), [], 'secret-in-tracked'],
    ]
  for (const [where, put, words, code] of PLACES)
    it(`finds a secret in ${where}`, (context) => {
      const project = repository(context)
      put(project)
      const report = guard(project, ...words)
      assert.ok(report.codes.includes(code), report.told)
      assert.equal(report.status, 1)
    })

  it('tells once of a file that is clean on the disk, and was committed with a secret', (context) => {
    const project = repository(context)
    project.write('dist/key.txt', SECRET)
    commit(project)
    assert.deepEqual(guard(project, 'dist').codes, ['secret-in-tracked'])
    project.write('dist/key.txt', 'clean')
    assert.deepEqual(guard(project, 'dist').codes, ['secret-in-version'])
    assert.deepEqual(guard(project, '--history').codes, ['secret-committed'])
  })

  it('tells of an env file in the history also where layers are outside of the repository', (context) => {
    const project = repository(context)
    const definition = JSON.parse(readFileSync(join(project.root, 'settings.definition.json'), 'utf8'))
    project.write('settings.definition.json', JSON.stringify({ ...definition, layersFrom: ['../elsewhere'] }))
    project.git('add', '-f', '.env.production.local')
    commit(project)
    project.git('rm', '-q', '--cached', '.env.production.local')
    commit(project)
    assert.ok(guard(project, '--history').codes.includes('env-file-committed'))
  })

  it('knows the secrets of another working tree', (context) => {
    const project = repository(context)
    project.git('worktree', 'add', '-q', 'other-tree')
    writeFileSync(join(project.root, 'other-tree/key.txt'), SECRET)
    const staged = { ...project, root: join(project.root, 'other-tree') }
    run('git', ['add', 'key.txt'], staged.root)
    const { status, stdout } = project.mappa(['guard', '--staged', '--json', '--root', 'other-tree'])
    assert.deepEqual(
      [status, JSON.parse(stdout).problems.map((each: { code: string }) => each.code)],
      [1, ['secret-staged']],
    )
  })

  it('reads what npm would publish, also where git ignores it', (context) => {
    const project = repository(context, {
      'package.json': '{ "name": "fern", "version": "1.0.0", "files": ["dist"] }',
      '.gitignore': 'node_modules\n.env*.local\ndist\n',
    })
    project.write('dist/index.js', `export const key = '${SECRET}'\n`)
    project.write('dist/prod.env', `KEY=${SECRET}\n`)
    const report = guard(project)
    assert.deepEqual(report.codes, ['secret-published', 'secret-published'], report.told)
  })

  const IMAGES: readonly (readonly [what: string, files: Record<string, string>, isTold: boolean])[] = [
    ['a Dockerfile', { Dockerfile: 'FROM x' }, true],
    ['a Dockerfile with rules', { Dockerfile: 'FROM x', '.dockerignore': '**/.env*' }, false],
    [
      'rules of the Dockerfile itself',
      { Dockerfile: 'FROM x', '.dockerignore': '**/.env*', 'Dockerfile.dockerignore': 'x' },
      true,
    ],
    ['rules of another Dockerfile', { 'api.Dockerfile': 'FROM x', 'api.Dockerfile.dockerignore': '**/.env*' }, false],
    [
      'one that a compose file names',
      {
        'docker/Dockerfile': 'FROM x',
        'compose.yaml': 'services:\n  a:\n    build: { context: ., dockerfile: docker/Dockerfile }\n',
      },
      true,
    ],
    [
      'the rules of that one',
      {
        'docker/Dockerfile': 'FROM x',
        'docker/Dockerfile.dockerignore': '**/.env*',
        'compose.prod.yaml': 'services:\n  a:\n    build: { context: ., dockerfile: docker/Dockerfile }\n',
      },
      false,
    ],
    ['a context below', { 'api/Dockerfile': 'FROM x', 'compose.yaml': 'services:\n  a:\n    build: ./api\n' }, false],
    [
      'one that a bake file names',
      {
        'docker/Dockerfile': 'FROM x',
        'docker-bake.hcl': 'target "a" {\n  context = "."\n  dockerfile = "docker/Dockerfile"\n}\n',
      },
      true,
    ],
    ['a compose file that is broken', { 'compose.yaml': 'services: [' }, false],
  ]
  for (const [what, files, isTold] of IMAGES)
    it(`${isTold ? 'tells of' : 'lets pass'} an image by ${what}`, (context) => {
      const report = guard(repository(context, files))
      assert.deepEqual(report.codes, isTold ? ['env-file-in-image'] : [], report.told)
    })

  it('looks at the Dockerfile of a repository for each of its packages', (context) => {
    const project = repository(context, {
      'repo/Dockerfile': 'FROM x',
      'repo/packages/a/package.json': '{ "private": true }',
    })
    for (const [file, text] of Object.entries(FILES)) project.write(`repo/packages/a/${file}`, text)
    chmodSync(join(project.root, 'repo/packages/a/.env.production.local'), 0o600)
    run('git', ['init', '-q'], join(project.root, 'repo'))
    const { stdout } = project.mappa(['guard', '--json', '--root', 'repo/packages/a'])
    assert.ok(
      JSON.parse(stdout).problems.some((each: { code: string }) => each.code === 'env-file-in-image'),
      stdout,
    )
  })

  it('finds a secret in a tracked file that a sparse checkout leaves out', (context) => {
    const project = repository(context, { 'away/key.txt': SECRET })
    project.git('sparse-checkout', 'set', 'deep')
    assert.ok(!readdirSync(project.root).includes('away'))
    assert.deepEqual(guard(project).codes, ['secret-in-tracked'])
  })
})
