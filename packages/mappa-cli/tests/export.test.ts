import assert from 'node:assert/strict'
import { lstatSync, readdirSync, readFileSync, statSync, symlinkSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { needs } from '@mappa/tests/support/programs'
import { DEFINITION, makeProject, type Project, run } from '@mappa/tests/support/project'
import { awkwardText } from '@mappa/tests/support/texts'
import fc from 'fast-check'
import { EnvDocument } from 'mappa-settings/envfile'
import YAML from 'yaml'

const KEY = 'drill-kq83-made-up'
const FILES = {
  'settings.definition.ts': DEFINITION,
  'package.json': '{ "name": "@fernhollow/Dome_API", "type": "module" }',
  '.env': "DOME_URL='https://dome.fernhollow.example/?a=1&b=$x'\n",
  '.env.development.local': `DOME_KEY=${KEY}\n`,
}
const PLAIN = { SERVER_PORT: '4100', DOME_URL: 'https://dome.fernhollow.example/?a=1&b=$x', DOME_MOTORS: 'false' }
const WHOLE = { ...PLAIN, DOME_KEY: KEY }
const modeOf = ({ root }: Project, file: string) => (statSync(join(root, file)).mode & 0o777).toString(8)
const dome = (context: TestContext): Project => makeProject(context, FILES)

/** What systemd.exec(5) documents of `EnvironmentFile=`: comments, quotes, and a backslash within double quotes. */
function systemdRead(text: string): Record<string, string> {
  const found: Record<string, string> = {}
  for (let at = 0; at < text.length; ) {
    const [line = ''] = /[^\n]*/.exec(text.slice(at)) ?? []
    if (line.trim() === '' || /^[#;]/.test(line)) {
      at += line.length + 1
      continue
    }
    const [, name = ''] = /^([A-Za-z_]\w*)="/.exec(text.slice(at)) ?? assert.fail(`no assignment in ${line}`)
    let value = ''
    for (at += name.length + 2; text[at] !== '"'; at++) {
      assert.ok(at < text.length, 'an open quote')
      const isEscape = text[at] === '\\' && '"\\`$'.includes(text[at + 1] ?? ' ')
      if (isEscape) at++
      value += text[at]
    }
    found[name] = value
    assert.equal(text[at + 1], '\n')
    at += 2
  }
  return found
}

/** What `docker run --env-file` reads: lines, in which only `=` means anything. */
const dockerRead = (text: string): Record<string, string> =>
  Object.fromEntries(
    text
      .split('\n')
      .filter((line) => line !== '')
      .map((line) => [line.slice(0, line.indexOf('=')), line.slice(line.indexOf('=') + 1)]),
  )

type Read = (text: string, project: Project) => Record<string, string>
const answer = (program: string, words: readonly string[], project: Project): Record<string, string> => {
  const { stdout, stderr } = run(program, words, project.root)
  assert.equal(stderr, '')
  return JSON.parse(stdout) as Record<string, string>
}
const python =
  (module: string, load: string): Read =>
  (text, project) => {
    project.write('exported', text)
    const script = `import json, ${module}, sys; json.dump(${load}, sys.stdout)`
    return answer('/usr/bin/python3', ['-c', script], project)
  }
const sourced =
  (...shell: [string, ...string[]]): Read =>
  (text, project) => {
    project.write('exported', text)
    const [program, ...words] = shell
    const script = `. ./exported; exec ${process.execPath} -p 'JSON.stringify(process.env)'`
    // What the shell has of its own.
    const own = new Set(['PATH', 'PWD', 'OLDPWD', 'SHLVL', '_'])
    const found = answer(program, [...words, '-c', script], project)
    return Object.fromEntries(Object.entries(found).filter(([name]) => !own.has(name)))
  }
const READERS: Readonly<Record<string, Readonly<Record<string, Read>>>> = {
  json: {
    'JSON.parse': (text) => JSON.parse(text) as Record<string, string>,
    jq: (text, project) => {
      project.write('exported', text)
      return answer('jq', ['.', 'exported'], project)
    },
    'json of Python': python('json', 'json.load(open("exported"))'),
  },
  yaml: {
    'YAML 1.2': (text) => YAML.parse(text, { version: '1.2' }) as Record<string, string>,
    'YAML 1.1 of Python': python('yaml', 'yaml.safe_load(open("exported", encoding="utf-8", newline=""))'),
  },
  sh: {
    dash: sourced('dash'),
    bash: sourced('bash', '--norc'),
    'busybox sh': sourced('busybox', 'sh'),
    zsh: sourced('zsh', '-f'),
  },
  docker: { 'the rules of its env-file': dockerRead },
  systemd: { 'the rules of EnvironmentFile': systemdRead },
  kubernetes: {
    'YAML 1.2': (text) => ofResources(YAML.parseAllDocuments(text).map((each) => each.toJS() as Resource)),
    'YAML 1.1 of Python': (text, project) =>
      ofResources(
        python('yaml', 'list(yaml.safe_load_all(open("exported", encoding="utf-8", newline="")))')(
          text,
          project,
        ) as unknown as Resource[],
      ),
  },
}
interface Resource {
  readonly kind: string
  readonly metadata: { readonly name: string }
  readonly data?: Record<string, string>
  readonly stringData?: Record<string, string>
}
const ofResources = (resources: readonly Resource[]): Record<string, string> =>
  Object.assign({}, ...resources.map(({ data, stringData }) => ({ ...data, ...stringData })))

describe('mappa export', needs('jq', 'dash', 'busybox', 'zsh', 'python3-yaml'), () => {
  for (const [format, readers] of Object.entries(READERS)) {
    it(`leaves secrets out of ${format} unless it is told to, and lists them`, (context) => {
      const project = dome(context)
      const [read] = Object.values(readers)
      const open = project.mappa(['export', '--as', format])
      assert.equal(open.stderr, 'Left out, since they are secrets: DOME_KEY (--with-secrets includes them)\n')
      assert.deepEqual(read!(open.stdout, project), PLAIN)
      const whole = project.mappa(['export', '--as', format, '--with-secrets'])
      assert.equal(whole.stderr, '')
      assert.deepEqual(read!(whole.stdout, project), WHOLE)
    })
  }

  const values = fc.sample(awkwardText, { numRuns: 2000, seed: 20261126 })
  const definition = JSON.stringify({
    settings: Object.fromEntries(
      values.map((_, index) => [
        `v${index}`,
        { kind: 'string', description: 'A value', allowEmpty: true, secret: index % 2 === 1 },
      ]),
    ),
  })
  /** A project with those of the values that a format takes. */
  const many = (context: TestContext, isTaken: (text: string) => boolean) => {
    const taken = values.map((text) => (isTaken(text) ? text : 'x'))
    let document = EnvDocument.from('')
    const lines = taken.map((text, index) => {
      document = EnvDocument.from('').set(`V${index}`, text)
      return String(document)
    })
    const project = makeProject(context, { 'settings.definition.json': definition, '.env.local': lines.join('') })
    return { project, expected: Object.fromEntries(taken.map((text, index) => [`V${index}`, text])) }
  }
  /** What each format has to refuse; all other values come back. */
  const REFUSED: Readonly<Record<string, RegExp>> = {
    docker: /[\r\n]/,
    systemd: /[\x01-\x08\x0b-\x1f\x7f]/,
  }
  for (const [format, readers] of Object.entries(READERS)) {
    for (const [reader, read] of Object.entries(readers)) {
      it(`gives ${reader} 2,000 values in ${format} as they are`, (context) => {
        const { project, expected } = many(context, (text) => REFUSED[format]?.test(text) !== true)
        const { status, stdout, stderr } = project.mappa(['export', '--as', format, '--with-secrets'])
        assert.equal(status, 0, stderr.slice(0, 2000))
        const found = read(stdout, project)
        for (const [name, text] of Object.entries(expected)) assert.equal(found[name], text, JSON.stringify(text))
      })
    }
  }
  for (const [format, refused] of Object.entries(REFUSED)) {
    it(`says of every value that ${format} can't hold why`, (context) => {
      const { project } = many(context, () => true)
      const { status, stdout } = project.mappa(['export', '--as', format, '--with-secrets', '--json'])
      assert.equal(status, 1)
      const { problems } = JSON.parse(stdout) as { problems: { code: string; name: string; line: number }[] }
      const errors = problems.filter(({ code }) => code === 'format-refuses')
      const wanted = values.flatMap((text, index) => (refused.test(text) ? [`V${index}`] : []))
      assert.deepEqual(
        errors.map(({ name }) => name),
        wanted,
      )
      assert.ok(errors.every(({ line }) => line > 0))
    })
  }

  it('refuses names that shells keep, and NUL where a format has none', (context) => {
    const settings = {
      uid: { kind: 'string', description: 'Who' },
      key: { kind: 'string', description: 'Key', default: 'a\0b' },
    }
    const project = makeProject(context, {
      'settings.definition.json': JSON.stringify({ directory: 'values', settings }),
      'values/UID': 'fern',
    })
    const told = (format: string) => project.mappa(['export', '--as', format]).stderr
    assert.match(told('sh'), /UID can't be written in the format sh, since shells keep a variable of this name/)
    for (const format of ['sh', 'docker', 'systemd', 'kubernetes'])
      assert.match(told(format), /KEY .* since it has a NUL character/)
    assert.equal(JSON.parse(project.mappa(['export', '--as', 'json']).stdout).KEY, 'a\0b')
  })

  it('knows all names that shells keep', (context) => {
    const names = [
      'UID',
      'RANDOM',
      'SECONDS',
      'LINENO',
      'COLUMNS',
      'SHLVL',
      'STATUS',
      'USERNAME',
      'HISTSIZE',
      'OPTIND',
      'PPID',
      'GROUPS',
      'MAIL',
      'HOSTTYPE',
      'HOME',
      'LANG',
      'TERM',
      'EDITOR',
      'HOST',
      'PORT',
      'USER',
      'VERSION',
      'SHELL',
      'LOGNAME',
      'DISPLAY',
      'MANPATH',
      'CDPATH',
      'FPATH',
      'WATCH',
      'SPROMPT',
      'NULLCMD',
      'CPUTYPE',
      'VENDOR',
      'MACHTYPE',
      'OSTYPE',
      'TTY',
      'FIGNORE',
      'HOSTNAME',
      'TMOUT',
      'TIMEFMT',
      'WORDCHARS',
      'ZDOTDIR',
      'IFS',
      'PS4',
    ]
    const settings = Object.fromEntries(
      names.map((name) => [name.toLowerCase(), { kind: 'string', description: 'A name', name }]),
    )
    const project = makeProject(context, {
      'settings.definition.json': JSON.stringify({ settings }),
      '.env': names.map((name) => `${name}=fog-of-the-night\n`).join(''),
    })
    const { problems } = JSON.parse(project.mappa(['export', '--as', 'sh', '--json']).stdout) as {
      problems: { name: string }[]
    }
    const refused = new Set(problems.map(({ name }) => name))
    const taken = names.filter((each) => !refused.has(each))
    assert.ok(taken.length > 10, taken.join(' '))
    for (const [shell, read] of Object.entries(READERS.sh!)) {
      const found = read(taken.map((name) => `export ${name}='fog-of-the-night'\n`).join(''), project)
      const kept = taken.filter((name) => found[name] !== 'fog-of-the-night')
      assert.deepEqual(kept, [], shell)
    }
  })

  it('writes files that only their owner reads and git ignores, if they hold a secret', (context) => {
    const project = dome(context)
    project.git('init')
    const files = (format: string, ...words: string[]) => project.mappa(['export', '--as', format, ...words])
    assert.match(
      files('yaml', '--out', 'deploy/open.yaml').stdout,
      /^deploy\/open\.yaml is written, with 3 values of development\.\n/,
    )
    assert.match(files('yaml', '--out', 'deploy/open.yaml').stdout, /is up to date/)
    assert.equal(modeOf(project, 'deploy/open.yaml'), (0o666 & ~process.umask()).toString(8))
    files('sh', '--with-secrets', '--out', 'run.sh')
    assert.equal(modeOf(project, 'run.sh'), '600')
    files('directory', '--with-secrets', '--out', 'run/values')
    assert.deepEqual(readdirSync(join(project.root, 'run/values')).sort(), Object.keys(WHOLE).sort())
    for (const [name, text] of Object.entries(WHOLE)) {
      assert.equal(readFileSync(join(project.root, 'run/values', name), 'utf8'), text)
      assert.equal(modeOf(project, `run/values/${name}`), '600')
    }
    project.git('add', '-A')
    const added = project.git('ls-files').split('\n')
    assert.ok(added.includes('deploy/open.yaml'))
    assert.ok(!added.some((file) => file.startsWith('run')), added.join())
  })

  it('overwrites what it wrote itself or what is committed, and nothing that was changed by hand', (context) => {
    const project = dome(context)
    project.git('init')
    const write = (...words: string[]) => project.mappa(['export', '--as', 'yaml', '--out', 'open.yaml', ...words])
    const text = () => readFileSync(join(project.root, 'open.yaml'), 'utf8')
    write()
    project.write('.env.development', 'SERVER_PORT=4200\n')
    assert.equal(write().status, 0)
    project.write('open.yaml', `${text()}# a note\n`)
    const refused = write()
    assert.deepEqual([refused.status, refused.stdout], [1, ''])
    assert.match(refused.stderr, /output-edited[\s\S]*add --force/)
    assert.match(text(), /# a note/)
    project.git('add', '-A')
    project.git('commit', '-m', 'notes')
    assert.equal(write().status, 0)
    assert.doesNotMatch(text(), /# a note/)
    project.write('open.yaml', 'mine')
    assert.equal(write('--force').status, 0)
  })

  const wrong: Readonly<Record<string, readonly [words: string[], status: number, stderr: RegExp]>> = {
    'no format': [[], 2, /required option '--as <format>' not specified/],
    'a format that does not exist': [['--as', 'xml'], 2, /Allowed choices are json, yaml, sh/],
    'many files without a place': [['--as', 'directory'], 2, /out-needed/],
    'a place outside': [['--as', 'json', '--out', '../x.json'], 2, /output-outside/],
    'a link': [['--as', 'json', '--out', 'link.json'], 1, /output-is-link/],
    'a place behind a link': [['--as', 'json', '--out', 'away/x.json'], 1, /output-is-link/],
    'a directory': [['--as', 'json', '--out', 'node_modules'], 1, /file-is-directory/],
    'a place in a file': [['--as', 'json', '--out', 'package.json/x'], 1, /output-below-file/],
    'a name that Kubernetes refuses': [['--as', 'kubernetes', '--config-map', 'Dome_API'], 2, /resource-name-wrong/],
    'settings that are wrong': [['--as', 'json', '--stage', 'production', '--with-secrets'], 1, /DOME_KEY {2}missing/],
  }
  for (const [name, [words, status, stderr]] of Object.entries(wrong)) {
    it(`refuses ${name}`, (context) => {
      const project = dome(context)
      symlinkSync('/tmp/elsewhere.json', join(project.root, 'link.json'))
      symlinkSync('/tmp', join(project.root, 'away'))
      const found = project.mappa(['export', ...words])
      assert.deepEqual([found.status, found.stdout], [status, ''], found.stderr)
      assert.match(found.stderr, stderr)
      assert.ok(lstatSync(join(project.root, 'link.json')).isSymbolicLink())
    })
  }

  it('gives all of it as data', (context) => {
    const { stdout, stderr } = dome(context).mappa(['export', '--as', 'docker', '--json'])
    assert.equal(stderr, '')
    const { content, ...rest } = JSON.parse(stdout) as { content: string }
    assert.deepEqual(dockerRead(content), PLAIN)
    assert.deepEqual(rest, { stage: 'development', format: 'docker', names: Object.keys(PLAIN), leftOut: ['DOME_KEY'] })
  })

  it('needs no secret for what is none', (context) => {
    const { status, stdout } = dome(context).mappa(['export', '--as', 'kubernetes', '--stage', 'production'])
    assert.equal(status, 0)
    const [map] = YAML.parseAllDocuments(stdout).map((each) => each.toJS() as Resource)
    assert.deepEqual([map!.kind, map!.metadata.name, map!.data], ['ConfigMap', 'fernhollow-dome-api', PLAIN])
  })
})
