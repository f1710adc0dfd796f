import assert from 'node:assert/strict'
import { existsSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { startLanguageClient } from '@mappa/tests/support/language-client'
import { makeProject, type Project } from '@mappa/tests/support/project'
import { defineSettings, setting, sharedSettings } from 'mappa-settings'
import { inspectSettings, loadSettings, watchSettings } from 'mappa-settings/node'
import type { Diagnostic } from 'vscode-languageserver-protocol'

const SHARED = `import { setting, sharedSettings } from 'mappa-settings'
export const shared = sharedSettings({
  weather: {
    url: setting.url('Where the weather station answers'),
    key: setting.string('Key of the weather station', { secret: true, minLength: 12 }),
  },
})
`
const definitionOf = (prefix: string) => `import { defineSettings, setting } from 'mappa-settings'
import { shared } from '../../settings.shared.ts'
export default defineSettings(
  { ...shared, server: { port: setting.port('Port to listen on', { default: 4100 }) } },
  { prefix: '${prefix}', layersFrom: ['../..'] },
)
`
const FILES = {
  'package.json': JSON.stringify({ name: 'fernhollow', workspaces: ['services/*'] }),
  '.gitignore': 'node_modules\n.env.local\n.env.*.local\n',
  'settings.shared.ts': SHARED,
  'services/door/package.json': '{ "name": "door", "type": "module" }',
  'services/door/settings.definition.ts': definitionOf('DOOR_'),
  'services/plates/package.json': '{ "name": "plates", "type": "module" }',
  'services/plates/settings.definition.ts': definitionOf('PLATES_'),
  '.env': 'WEATHER_URL=http://127.0.0.1:4500\n',
  '.env.local': 'WEATHER_KEY=made-up-weather-canary\n',
}
const fernhollow = (context: TestContext, files: Record<string, string> = {}): Project => {
  const project = makeProject(context, { ...FILES, ...files })
  project.git('init')
  return project
}
const read = ({ root }: Project, file: string) => readFileSync(join(root, file), 'utf8')

const shared = sharedSettings({
  weather: {
    url: setting.url('Where the weather station answers'),
    rain: setting.boolean('Rain', { name: 'IT_RAINS' }),
  },
})

describe('a shared part of a definition', () => {
  const named: Readonly<Record<string, readonly [tree: Parameters<typeof defineSettings>[0], names: string]>> = {
    'spread into it': [shared, 'WEATHER_URL IT_RAINS'],
    'in a group of another name': [{ site: shared }, 'WEATHER_URL IT_RAINS'],
    'of which one setting is taken': [{ sky: { station: shared.weather.url } }, 'WEATHER_URL'],
  }
  for (const [how, [tree, names]] of Object.entries(named))
    it(`keeps its names under a prefix: ${how}`, () => {
      const { settings } = defineSettings(tree, { prefix: 'DOOR_' })
      assert.equal(settings.map(({ name }) => name).join(' '), names)
    })

  it('says what is wrong with it where the definition is made', () => {
    const circle: Record<string, unknown> = { dome: setting.string('') }
    circle.again = circle
    assert.throws(
      () => defineSettings(sharedSettings({ ok: setting.port('A port'), wrong: 4100, circle } as never)),
      (error: { problems: { code: string }[] }) =>
        ['definition-not-tree', 'definition-circular', 'setting-description-missing'].every((code) =>
          error.problems.some((each) => each.code === code),
        ),
    )
  })
})

describe('layersFrom', () => {
  const refused: Readonly<Record<string, readonly [value: unknown, code: string]>> = {
    'a text': ['../..', 'layers-from-wrong'],
    'an absolute path': [['/etc/fernhollow'], 'layers-from-wrong'],
    'a drive of Windows': [['C:/fernhollow'], 'layers-from-wrong'],
    backslashes: [['..\\..'], 'layers-from-wrong'],
    'the home directory': [['~/fernhollow'], 'layers-from-wrong'],
    'an empty text': [[''], 'layers-from-wrong'],
    'a number': [[7], 'layers-from-wrong'],
    'its own directory': [['./'], 'layers-from-own'],
    'its own directory, on a detour': [['x/..'], 'layers-from-own'],
    'one directory twice': [['../..', '../../'], 'layers-from-twice'],
  }
  for (const [what, [layersFrom, code]] of Object.entries(refused))
    it(`can't be ${what}`, () => {
      assert.throws(
        () => defineSettings({}, { layersFrom } as never),
        (error: { problems: { code: string }[] }) => error.problems[0]?.code === code,
      )
    })

  const definition = defineSettings(
    { ...shared, dome: { count: setting.integer('Domes', { default: 1 }) } },
    {
      layersFrom: ['../..', '../shared/'],
    },
  )
  const project = (context: TestContext, files: Record<string, string> = {}) => {
    const made = makeProject(context, {
      '.env': 'WEATHER_URL=http://127.0.0.1:1\nIT_RAINS=no\n',
      'services/shared/.env': 'WEATHER_URL=http://127.0.0.1:2\n',
      'services/door/.gitkeep': '',
      ...files,
    })
    return { ...made, own: join(made.root, 'services/door') }
  }

  it('puts later directories above earlier ones, and the own one above all', (context) => {
    const { own, write } = project(context)
    const urls = () => inspectSettings(definition, { root: own, environment: {} }).settings[0]!
    assert.deepEqual([urls().text, urls().origin?.file], ['http://127.0.0.1:2', '../shared/.env'])
    write('.env.development.local', 'WEATHER_URL=http://127.0.0.1:3\n')
    assert.equal(urls().origin?.file, '../shared/.env')
    write('services/shared/.env.development', 'WEATHER_URL=http://127.0.0.1:4\n')
    assert.equal(urls().text, 'http://127.0.0.1:4')
    write('services/door/.env', 'WEATHER_URL=http://127.0.0.1:5\n')
    assert.deepEqual([urls().text, urls().origin?.file], ['http://127.0.0.1:5', '.env'])
  })

  it('gives a program its values, and new ones when a shared file changes', async (context) => {
    const { own, write } = project(context)
    assert.equal(loadSettings(definition, { root: own, environment: {} }).weather.rain, false)
    const changed = new Promise((resolve) => {
      const watched = watchSettings(definition, (now) => resolve(now.weather.rain), { root: own, environment: {} })
      context.after(() => watched.stop())
    })
    write('.env', 'WEATHER_URL=http://127.0.0.1:1\nIT_RAINS=yes\n')
    assert.equal(await changed, true)
  })

  const told: Readonly<Record<string, readonly [files: Record<string, string>, code: string, file: string | null]>> = {
    'a directory that is not there': [{}, 'layers-from-missing', null],
    'a misspelled name of a setting without a value': [{ '.env': 'IT_RAINZ=yes\n' }, 'name-near', '../../.env'],
    'a file with nearly the right name': [{ '.env.dev': '' }, 'file-name-near', '../../.env.dev'],
    'a line that is no entry': [{ '.env': 'IT RAINS\n' }, 'line-not-understood', '../../.env'],
  }
  for (const [what, [files, code, file]] of Object.entries(told))
    it(`tells of ${what}`, (context) => {
      const lost = defineSettings(
        { ...shared },
        { layersFrom: code === 'layers-from-missing' ? ['../nowhere'] : ['../..'] },
      )
      const { problems } = inspectSettings(lost, { root: project(context, files).own, environment: {} })
      assert.deepEqual(
        problems.filter((each) => each.code === code).map((each) => each.file),
        [file],
      )
    })

  it('says nothing about names that belong to other packages', (context) => {
    const { own } = project(context, {
      '.env': 'WEATHER_URLS=x\nIT_RAIN=x\nWEATHER_URL=http://127.0.0.1:1\nIT_RAINS=no\n',
    })
    assert.deepEqual(inspectSettings(definition, { root: own, environment: {} }).problems, [])
  })
})

describe('values that packages share', () => {
  it('are checked in each, with origins that say so', (context) => {
    const project = fernhollow(context)
    assert.equal(project.mappa(['check', '--all']).stdout, '2 packages: OK\n')
    const { stdout } = project.mappa(['show', 'WEATHER_URL', '--root', 'services/door', '--json'])
    assert.equal((JSON.parse(stdout) as { origin: { file: string } }).origin.file, '../../.env')
    assert.ok(!stdout.includes('canary'))
  })

  it('are missing with a hint to both places', (context) => {
    const { stdout } = fernhollow(context, { '.env.local': '' }).mappa(['check', '--package', 'door'])
    assert.match(
      stdout,
      /Add WEATHER_KEY=\.\.\. to \.env\.development\.local, or for all packages to \.\.\/\.\.\/\.env\.development\.local/,
    )
  })

  it('are set for all of them from the root, and ignored by git first', (context) => {
    const project = fernhollow(context, { '.gitignore': 'node_modules\n', '.env.local': '' })
    const words = ['set', 'WEATHER_KEY', '--stage', 'staging']
    const { status, stderr } = project.mappa(words, {}, 'made-up-weather-canary')
    assert.deepEqual([status, /packages-to-choose/.test(stderr)], [2, true])
    const { stdout } = project.mappa([...words, '--shared'], {}, 'made-up-weather-canary')
    assert.match(stdout, /^WEATHER_KEY is set in \.env\.staging\.local:1, a new file\./)
    assert.equal(statSync(join(project.root, '.env.staging.local')).mode & 0o777, 0o600)
    assert.match(read(project, '.gitignore'), /\.env\.\*\.local/)
    assert.ok(!existsSync(join(project.root, 'services/door/.gitignore')))
  })

  it('are overridden, and override, with a word about it', (context) => {
    const project = fernhollow(context)
    const words = ['set', 'WEATHER_URL', 'https://door.fernhollow.example', '--stage', 'production']
    assert.match(
      project.mappa([...words, '--package', 'door']).stdout,
      /In this package it overrides \.env:1\. To change the value for all packages, add --shared\./,
    )
    const again = project.mappa([...words, '--package', 'door', '--shared', '--json'])
    const { file, overriddenBy } = JSON.parse(again.stdout) as { file: string; overriddenBy: string[] }
    assert.deepEqual([file, overriddenBy], ['../../.env.production', ['.env.production:1']])
  })

  it('are refused where a definition shares none', (context) => {
    const { status, stderr } = makeProject(context, {
      'settings.definition.json': '{ "settings": { "dome": { "kind": "url", "description": "A dome" } } }',
    }).mappa(['set', 'DOME', 'https://dome.fernhollow.example', '--shared'])
    assert.equal(status, 2)
    assert.match(stderr, /no-shared-files/)
  })

  it('are guarded: a shared secret that git tracks, or that others can read', (context) => {
    const project = fernhollow(context, { '.gitignore': 'node_modules\n' })
    project.git('add', '-f', '.env.local')
    const { status, stdout } = project.mappa(['guard', '--package', 'door'])
    assert.equal(status, 1)
    assert.match(stdout, /secret-tracked/)
    assert.match(stdout, /secret-readable/)
    assert.ok(!stdout.includes('canary'))
  })

  it('are guarded once, with the secrets of all packages', (context) => {
    const project = fernhollow(context, { '.gitignore': 'node_modules\n' })
    project.git('add', '-f', '.env.local')
    project.git('commit', '-qm', 'first')
    const { packages } = JSON.parse(project.mappa(['guard', '--history', '--json']).stdout) as {
      packages: { package: string; problems: { code: string; file: string }[] }[]
    }
    const told = packages.flatMap((each) =>
      each.problems
        .map(({ code, file }) => `${each.package}: ${code} ${file}`)
        .filter((line) => line.endsWith('.env.local')),
    )
    assert.deepEqual(told.sort(), [
      'the repository: env-file-committed .env.local',
      'the repository: secret-committed .env.local',
      'the repository: secret-readable .env.local',
      'the repository: secret-tracked .env.local',
    ])
  })

  it('are guarded as far as the repository goes', (context) => {
    const project = makeProject(context, {
      '.env.local': 'WEATHER_KEY=made-up-weather-canary\n',
      'site/services/door/settings.definition.json': JSON.stringify({
        layersFrom: ['../../..'],
        settings: { weather: { key: { kind: 'string', secret: true, description: 'A key' } } },
      }),
      'site/services/door/.env.production': 'WEATHER_KEY=made-up-door-canary\n',
    })
    project.git('init', 'site')
    const { stdout } = project.mappa(['guard', '--root', 'site/services/door'])
    assert.match(stdout, /\.env\.production {2}secret-not-ignored/)
  })
})

describe('mappa init at the root of packages', () => {
  const CODE = {
    'package.json': FILES['package.json'],
    'settings.shared.ts': '',
    'services/door/package.json': '{ "name": "door", "type": "module" }',
    'services/door/tsconfig.json': '{}',
    'services/door/door.ts':
      "fetch(process.env.WEATHER_URL!, { headers: { key: process.env.WEATHER_KEY! } })\nconst port = Number(process.env.PORT ?? '4100')\nconsole.log(process.env.WEATHER_DAYS)\n",
    'services/door/.env': 'WEATHER_URL=http://127.0.0.1:4500\nWEATHER_KEY=made-up-weather-canary\nWEATHER_DAYS=3\n',
    'services/plates/package.json': '{ "name": "plates", "type": "module" }',
    'services/plates/plates.ts':
      "fetch(process.env.WEATHER_URL!, { headers: { key: process.env.WEATHER_KEY! } })\nconst port = Number(process.env.PORT ?? '4200')\n",
    'services/plates/.env': 'WEATHER_URL=http://127.0.0.1:4500\n',
    'services/plates/.env.local': 'WEATHER_KEY=made-up-weather-canary\n',
    'services/notes/package.json': '{ "name": "notes" }',
  }
  const { 'settings.shared.ts': _, ...REPOSITORY } = CODE

  it('proposes what is shared, and writes nothing without consent', (context) => {
    const project = fernhollow(context)
    const fresh = makeProject(context, REPOSITORY)
    fresh.git('init')
    const before = fresh.git('status', '--short', '-uall')
    const { status, stdout } = fresh.mappa(['init'])
    assert.equal(status, 0)
    assert.match(
      stdout,
      /WEATHER_KEY {2}services\/door, services\/plates {2}the same in 2 files; move into \.env\.local\n/,
    )
    assert.match(stdout, /each keeps its own: PORT \(services\/door, services\/plates\)/)
    assert.match(stdout, /Nothing was written\. mappa init --yes/)
    assert.equal(fresh.git('status', '--short', '-uall'), before)
    assert.match(project.mappa(['init']).stdout, /Everything is already set up\. Nothing was changed\./)
  })

  it('sets all packages up, so that each has the values that it had', (context) => {
    const project = makeProject(context, REPOSITORY)
    project.git('init')
    assert.equal(project.mappa(['init', '--yes']).status, 0)
    assert.equal(read(project, '.env'), 'WEATHER_URL=http://127.0.0.1:4500\n')
    assert.equal(read(project, '.env.local'), 'WEATHER_KEY=made-up-weather-canary\n')
    assert.equal(read(project, 'services/door/.env'), 'WEATHER_DAYS=3\n')
    assert.match(read(project, 'services/door/settings.definition.ts'), /\.\.\.shared\.weather,\n {4}days: setting/)
    assert.equal(project.mappa(['check', '--all']).stdout, '2 packages: OK\nWithout a definition: notes\n')
    assert.equal(project.git('check-ignore', '.env.local', 'services/door/.env.local').split('\n').length, 3)
    assert.match(project.mappa(['init', '--yes']).stdout, /Everything is already set up/)
  })

  it('leaves a shared part alone that is there', (context) => {
    const project = makeProject(context, { ...REPOSITORY, 'settings.shared.ts': 'export const shared = {}\n' })
    const { module } = JSON.parse(project.mappa(['init', '--json', '--yes']).stdout) as { module: string }
    assert.equal(module, 'settings.shared2.ts')
    assert.equal(project.mappa(['check', '--all']).status, 0)
  })

  it('fits new packages in with those that have a definition, and says what they declare already', (context) => {
    const project = makeProject(context, REPOSITORY)
    const definition = (options: string) =>
      `{ ${options} "settings": { "weather": { "url": { "kind": "url", "description": "Where it answers" } } } }`
    project.write('services/rain/package.json', '{ "name": "rain" }')
    project.write('services/rain/settings.definition.json', definition('"stages": ["drill", "night"],'))
    project.write('services/wind/package.json', '{ "name": "wind" }')
    project.write('services/wind/settings.definition.json', definition('"stages": ["drill", "night"],'))
    project.write('services/moon/package.json', '{ "name": "moon" }')
    project.write('services/moon/settings.definition.json', definition(''))
    project.write('services/star/package.json', '{ "name": "star" }')
    project.write('services/star/settings.definition.json', '{ "settings": 3 }')
    const { stdout } = project.mappa(['init'])
    assert.match(stdout, /can't be loaded, so that nothing is known of what they declare: services\/star\./)
    assert.match(stdout, /New packages get the stages drill, night\. Not all have these: services\/moon\./)
    assert.match(
      stdout,
      /WEATHER_URL {2}services\/door, services\/plates {2}services\/moon, services\/rain, services\/wind\n/,
    )
    const { stages, known, broken } = JSON.parse(project.mappa(['init', '--json', '--yes']).stdout)
    assert.deepEqual(stages, ['drill', 'night'])
    assert.deepEqual(known, [
      {
        name: 'WEATHER_URL',
        users: ['services/door', 'services/plates'],
        declaredBy: ['services/moon', 'services/rain', 'services/wind'],
      },
    ])
    assert.deepEqual(broken, ['services/star'])
    assert.match(read(project, 'services/door/settings.definition.ts'), /stages: \['drill', 'night'\]/)
  })

  const kept: Readonly<Record<string, Record<string, string>>> = {
    'differ in one stage': { 'services/plates/.env.production': 'WEATHER_URL=http://127.0.0.1:9\n' },
    'refer to others': { 'services/plates/.env': 'WEATHER_URL=http://127.0.0.1:${PORT}\nPORT=4500\n' },
  }
  for (const [which, files] of Object.entries(kept))
    it(`leaves values where they are that ${which}`, (context) => {
      const project = makeProject(context, { ...REPOSITORY, ...files })
      const { shared } = JSON.parse(project.mappa(['init', '--json', '--yes']).stdout) as {
        shared: { name: string; moves: unknown[] }[]
      }
      assert.deepEqual(shared.find(({ name }) => name === 'WEATHER_URL')?.moves, [])
      assert.match(read(project, 'services/door/.env'), /WEATHER_URL=http:\/\/127\.0\.0\.1:4500\n/)
    })
})

describe('an editor', () => {
  /** Ways in which a definition can name the directory of the same shared files. */
  for (const directory of ['../..', '../../.', '../../services/..'])
    it(`follows shared files that are not saved, of ${directory}`, async (context) => {
      const project = fernhollow(context, {
        'services/door/settings.definition.ts': definitionOf('DOOR_').replace("['../..']", `['${directory}']`),
        'services/door/.env.staging': 'DOOR_SERVER_PORT=4101\n',
      })
      const client = await startLanguageClient(context, project.root)
      const file = 'services/door/.env.staging'
      const isMissing = (wanted: boolean) => (diagnostics: readonly Diagnostic[]) =>
        diagnostics.some(({ code, message }) => code === 'missing' && String(message).includes('WEATHER_URL')) ===
        wanted
      await client.open(file)
      await client.told(file, isMissing(false))
      await client.open('.env', FILES['.env'])
      await client.type('.env', '# nothing here\n')
      await client.told(file, isMissing(true))
      // A file that is not there yet, and never saved.
      await client.open('.env.staging', '# nothing here either\n')
      await client.type('.env.staging', 'WEATHER_URL=http://127.0.0.1:4501\n')
      await client.told(file, isMissing(false))
      await client.type('.env.staging', 'WEATHER=x\n')
      await client.told(file, isMissing(true))
      await client.type('.env', FILES['.env'])
      await client.told(file, isMissing(false))
    })
})
