import assert from 'node:assert/strict'
import { cpSync, existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { makeProject, type Outcome, type Project, REPOSITORY } from './support/project.ts'

const STAGES = ['development', 'staging', 'production']
const EXAMPLES = [
  'deploy',
  'dome-api',
  'dome-early',
  'fernhollow',
  'fernhollow/services/dome-door',
  'fernhollow/services/plate-archive',
  'meteor-log',
  'night-desk',
  'rain-watch',
  'stage-table',
  'stand-in',
]

/** What each command may end with: all is well, something is wrong, called in a wrong way; `run` with what sysexits.h says. */
const EXIT_CODES: Readonly<Record<string, readonly number[]>> = { run: [0, 2, 78] }

/** A copy of an example, in a repository of its own, with a secret in each stage. */
function copyOf(context: TestContext, example: string): Project {
  const project = makeProject(context, {})
  cpSync(join(REPOSITORY, 'examples', example), project.root, {
    recursive: true,
    filter: (file) => !/[\\/](?:node_modules|dist)$/.test(file),
  })
  project.git('init', '-q')
  project.write('.git/info/exclude', 'node_modules\n')
  project.git('add', '-A')
  project.git('commit', '-qm', 'first')
  return project
}

function assertOrderly(words: readonly string[], { status, stdout, stderr }: Outcome): void {
  const shown = `mappa ${words.join(' ')}: ${status}\n${stdout.slice(0, 500)}\n${stderr.slice(0, 2000)}`
  assert.ok((EXIT_CODES[words[0]!] ?? [0, 1, 2]).includes(status!), shown)
  assert.doesNotMatch(stderr + stdout, /^ {4}at \S|\b(?:Type|Reference|Range|Syntax)Error\b/m, shown)
}

/** The names of all settings, as the command itself lists them. */
function namesIn(project: Project): readonly string[] {
  const { status, stdout } = project.mappa(['show', '--json'])
  if (status === 2) return []
  // At the root of packages, each of them answers.
  const { settings = [] } = JSON.parse(stdout) as { settings?: { name: string }[] }
  return settings.map(({ name }) => name)
}

describe('every command that only reads', () => {
  for (const example of EXAMPLES)
    it(`ends in an orderly way in examples/${example}`, (context) => {
      const project = copyOf(context, example)
      const names = namesIn(project)
      const ofStages = STAGES.flatMap((stage) => [
        ...[[], ['--json'], ['--format', 'sarif']].map((format) => ['check', '--stage', stage, ...format]),
        ...names.map((name) => ['show', name, '--stage', stage, '--json']),
        ['show', '--stage', stage],
        ['show', names.at(-1) ?? 'NONE', '--stage', stage, '--reveal'],
        ...['json', 'yaml', 'sh', 'docker', 'systemd', 'kubernetes'].map((as) => [
          'export',
          '--as',
          as,
          '--stage',
          stage,
        ]),
        ['set', '--missing', '--stage', stage],
      ])
      const once = [
        ...names.map((name) => ['show', name]),
        ['check', '--all'],
        ['compare'],
        ['compare', '--json'],
        ['write', '--all', '--verify'],
        ['survey'],
        ['survey', '--json'],
        ['guard'],
        ['guard', '--history'],
        ['guard', '--staged'],
        ['move', '--all'],
        ['view', '--format', 'markdown'],
        ['view', '--json'],
        ['completion', 'bash'],
        ['help'],
        ['store', 'compare'],
        ['run', '--stage', 'production', '--', 'true'],
        ['run', '--', 'true'],
      ]
      const before = filesOf(project)
      for (const words of [...ofStages, ...once]) assertOrderly(words, project.mappa(words))
      assert.deepEqual(filesOf(project), before)
      if (names.length > 0) assert.equal(project.mappa(['show', names[0]!]).stdout.startsWith(names[0]!), true)
    })
})

describe('every command that writes', () => {
  for (const example of EXAMPLES)
    it(`ends in an orderly way in examples/${example}, once and again`, (context) => {
      const project = copyOf(context, example)
      const [name = 'NONE'] = namesIn(project)
      const template = readdirSync(project.root).find((file) => file.includes('.template.'))
      const commands = [
        ['init', '--yes'],
        ['write', '--all'],
        ['set', name, '--stage', 'development'],
        ['set', name, '--stage', 'production', '--random', '24'],
        ['move', '--all', '--yes', '--stage', 'development'],
        ['move', '--all', '--yes', '--templates', '--stage', 'development'],
        ['export', '--as', 'json', '--stage', 'production', '--with-secrets', '--out', 'run/all.json'],
        ['guard', '--install'],
        ['view', '--out', 'report.html'],
        ...(template === undefined
          ? []
          : [['fill', template, '--all', '--with-secrets', '--out', 'run/{name}.{stage}']]),
      ]
      for (const words of [...commands, ...commands])
        assertOrderly(words, project.mappa(words, {}, 'https://dome.fernhollow.example\n'))
      assert.ok(existsSync(join(project.root, 'package.json')))
    })
})

/** All files and what is in them; caches are nobody's business. */
function filesOf({ root }: Project): Record<string, string> {
  const entries = readdirSync(root, { recursive: true, withFileTypes: true })
  return Object.fromEntries(
    entries
      .filter((each) => each.isFile() && !/[\\/](?:\.git|node_modules)(?:[\\/]|$)/.test(each.parentPath))
      .map((each) => join(each.parentPath, each.name))
      .map((file) => [file.slice(root.length + 1), readFileSync(file, 'latin1')]),
  )
}
