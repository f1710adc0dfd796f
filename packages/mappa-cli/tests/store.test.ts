import assert from 'node:assert/strict'
import { readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { base64, type Cluster, startCluster } from '@mappa/tests/support/etcd'
import { Hosting } from '@mappa/tests/support/hosting'
import { needs } from '@mappa/tests/support/programs'
import { COMMAND, makeProject, type Project, runAsync } from '@mappa/tests/support/project'

const KEYS = {
  development: 'drill-9f3KQ2x7Rt4Ws8Lm6Bd1',
  production: 'open-sky-8fK2qWm5Zt1Lx7Rd',
  staging: 'drill-5Hc7Yv3Np9Gj2Fk8Qz4',
}
const PREFIX = 'fernhollow/dome-api'

/** The example of the dome service, with keys. */
function domeApi(context: TestContext, store: object): Project {
  const definition = {
    settings: {
      server: { port: { kind: 'port', description: 'Port the dome service listens on', default: 4100 } },
      dome: {
        key: {
          kind: 'string',
          description: 'Key the dome controller asks for',
          secret: true,
          minLength: 16,
          distinctAcrossStages: true,
          stages: { production: { pattern: '^open-' } },
        },
        url: { kind: 'url', description: 'Address of the dome controller' },
      },
      night: { places: { kind: 'integer', description: 'Places at the eyepiece', optional: true } },
    },
  }
  const files = Object.entries(KEYS).flatMap(([stage, key]) => [
    [`.env.${stage}.local`, `DOME_KEY=${key}\n`],
    [`.env.${stage}`, `DOME_URL=https://dome.${stage}.fernhollow.example\n`],
  ])
  const project = makeProject(context, {
    ...Object.fromEntries(files),
    'settings.definition.json': JSON.stringify(definition),
    'settings.store.json': JSON.stringify(store),
  })
  project.git('init', '-q')
  return project
}

/** Runs the command while this process answers it. */
async function mappa(project: Project, words: readonly string[], environment: Record<string, string> = {}) {
  const outcome = await runAsync(process.execPath, [COMMAND, 'store', ...words], project.root, environment)
  for (const key of Object.values(KEYS))
    assert.ok(!(outcome.stdout + outcome.stderr).includes(key), 'a secret is shown')
  return outcome
}

async function withHosting(context: TestContext) {
  const hosting = await Hosting.start()
  context.after(() => hosting.stop())
  const project = domeApi(context, { kind: 'http', url: hosting.url, token: { env: 'HOSTING_TOKEN' } })
  const environment = { HOSTING_TOKEN: hosting.token }
  return { hosting, project, store: (...words: string[]) => mappa(project, words, environment) }
}

async function withEtcd(
  context: TestContext,
): Promise<{ cluster: Cluster; project: Project; put: (key: string, value: string) => Promise<unknown> }> {
  const cluster = await startCluster(context)
  const put = (key: string, value: string) =>
    cluster.ask('kv/put', { key: base64(`${PREFIX}/${key}`), value: base64(value) })
  return { cluster, put, project: domeApi(context, { kind: 'etcd', endpoints: cluster.endpoints, prefix: PREFIX }) }
}

const relations = ({ stdout }: { stdout: string }) => {
  const { settings, problems } = JSON.parse(stdout) as {
    settings: { name: string; relation: string }[]
    problems: { code: string; name: string | null }[]
  }
  return {
    rows: Object.fromEntries(settings.map(({ name, relation }) => [name, relation])),
    problems: problems.map(({ code, name }) => `${code} ${name}`),
  }
}

describe('mappa store', needs('etcd-server'), () => {
  it('finds the drill key in production at a hosting service that tells no values', async (context) => {
    const { hosting, store } = await withHosting(context)
    const before = await store('compare', '--stage', 'production', '--json')
    assert.equal(before.status, 1)
    assert.deepEqual(relations(before), {
      rows: { SERVER_PORT: 'unset', DOME_KEY: 'missing', DOME_URL: 'missing', NIGHT_PLACES: 'unset' },
      problems: ['store-missing DOME_KEY', 'store-missing DOME_URL'],
    })
    const at = new Date().toISOString()
    const kept = hosting.stages.get('production')!
    kept.variables.set('DOME_KEY', { value: KEYS.development, revision: 2, by: null, at })
    kept.variables.set('DOME_URI', { value: 'x', revision: 2, by: null, at })
    kept.revision = 2
    const wrong = await store('compare', '--stage', 'production')
    assert.equal(wrong.status, 1)
    assert.match(wrong.stdout, /≠ {2}DOME_KEY +\(secret, 25 characters\) +\(kept by the store\) +@2/)
    assert.match(
      wrong.stdout,
      /DOME_KEY in 127\.0\.0\.1:\d+\/v1\/projects\/dome-api\/production has the value of development/,
    )
    assert.match(wrong.stdout, /holds DOME_URI, which the definition does not declare[\s\S]*Did you mean DOME_URL/)
    const planned = await store('send', '--stage', 'production', '--remove', 'DOME_URI')
    assert.match(planned.stdout, /change +DOME_KEY[\s\S]*add +DOME_URL[\s\S]*remove +DOME_URI[\s\S]*Nothing was sent/)
    assert.equal(kept.variables.get('DOME_KEY')!.value, KEYS.development)
    const sent = await store('send', '--stage', 'production', '--remove', 'DOME_URI', '--yes')
    assert.match(sent.stdout, /Sent: .*revision 3 now/)
    assert.deepEqual([...kept.variables.keys()], ['DOME_KEY', 'DOME_URL'])
    assert.equal(kept.variables.get('DOME_KEY')!.value, KEYS.production)
    const after = await store('compare', '--stage', 'production', '--json')
    assert.deepEqual([after.status, relations(after).problems], [0, []])
    const history = await store('history', '--stage', 'production')
    assert.match(history.stdout, /@3 .* UTC +\S+@\S+ +changed DOME_KEY, added DOME_URL, removed DOME_URI/)
    const fetched = await store('fetch', '--stage', 'staging', '--yes')
    assert.match(fetched.stdout, /The files have all that can be read/)
    // Tokens and values go in bodies and headers, and nowhere else.
    for (const each of hosting.requests)
      assert.match(each, /^(GET|PUT) \/v1\/projects\/dome-api\/stages\/\w+(\/history)?$/)
  })

  it('compares, sends, fetches and lists what is in etcd, which files of the program need not repeat', async (context) => {
    const { project, put } = await withEtcd(context)
    const first = await mappa(project, ['compare', '--stage', 'production', '--json'])
    assert.deepEqual(relations(first), {
      rows: { SERVER_PORT: 'unset', DOME_KEY: 'missing', DOME_URL: 'here', NIGHT_PLACES: 'unset' },
      problems: ['store-missing DOME_KEY'],
    })
    assert.match((await mappa(project, ['send', '--stage', 'production', '--yes'])).stdout, /add +DOME_KEY/)
    await put('production/SERVER_PORT', '99999')
    await put('production/NIGHT_PLACES', '7')
    await put('production/DOME_KEY', KEYS.staging)
    const second = relations(await mappa(project, ['compare', '--stage', 'production', '--json']))
    assert.deepEqual(second.rows, {
      SERVER_PORT: 'there',
      DOME_KEY: 'different',
      DOME_URL: 'here',
      NIGHT_PLACES: 'there',
    })
    assert.deepEqual(second.problems, [
      'not-port SERVER_PORT',
      'pattern-differs DOME_KEY',
      'store-value-of-stage DOME_KEY',
    ])
    const fetched = await mappa(project, ['fetch', '--stage', 'production', '--yes'])
    assert.match(
      fetched.stdout,
      /NIGHT_PLACES[\s\S]*Not taken[^\n]*SERVER_PORT, DOME_KEY[\s\S]*Written: \.env\.production\./,
    )
    assert.match(readFileSync(join(project.root, '.env.production'), 'utf8'), /^NIGHT_PLACES=7$/m)
    await put('development/DOME_KEY', `${KEYS.development}-new`)
    assert.equal((await mappa(project, ['fetch', '--stage', 'development', '--yes'])).status, 0)
    const local = join(project.root, '.env.development.local')
    assert.match(readFileSync(local, 'utf8'), new RegExp(`^DOME_KEY=${KEYS.development}-new$`, 'm'))
    assert.equal(statSync(local).mode & 0o077, 0)
    assert.match(project.git('status', '--porcelain', '--ignored'), /!! \.env\.development\.local/)
    // A file below has the value already, and one above it another.
    project.write('.env', 'NIGHT_PLACES=11\n')
    await put('production/NIGHT_PLACES', '11')
    await mappa(project, ['fetch', 'NIGHT_PLACES', '--stage', 'production', '--yes'])
    assert.match(readFileSync(join(project.root, '.env.production'), 'utf8'), /^NIGHT_PLACES=11$/m)
    const history = await mappa(project, ['history', '--stage', 'production'])
    assert.match(history.stdout, /by others than mappa +added NIGHT_PLACES/)
    const checked = project.mappa(['check', '--all', '--store'])
    assert.equal(checked.status, 1)
    assert.match(checked.stdout, /etcd fernhollow\/dome-api\/production/)
    assert.match(project.mappa(['compare', '--store']).stdout, /NIGHT_PLACES/)
  })

  const wrong: Readonly<
    Record<string, readonly [store: object | string, environment: Record<string, string>, says: RegExp]>
  > = {
    'no JSON': ['{', {}, /settings\.store\.json does not say which store to use: it is no JSON object/],
    'an unknown kind': [{ kind: 'moon' }, {}, /its "kind" must be "etcd" or "http"/],
    'a password in it': [
      { kind: 'etcd', endpoints: ['http://127.0.0.1:1'], prefix: PREFIX, username: 'a', password: 'canary-pw' },
      {},
      /The password stands in settings\.store\.json itself/,
    ],
    'a token that is nowhere': [
      { kind: 'http', url: 'https://hosting.fernhollow.example', token: { env: 'HOSTING_TOKEN' } },
      {},
      /The token of the store is to be in the variable HOSTING_TOKEN, and there is none/,
    ],
    'a misspelled member': [
      { kind: 'etcd', endpoint: ['http://127.0.0.1:1'], prefix: PREFIX },
      {},
      /Did you mean endpoints/,
    ],
    'a store that is not there': [
      { kind: 'http', url: 'http://127.0.0.1:1/v1', token: { env: 'HOSTING_TOKEN' } },
      { HOSTING_TOKEN: 'canary-token' },
      /can't be reached: 127\.0\.0\.1:1 refuses the connection/,
    ],
  }
  for (const [name, [store, environment, says]] of Object.entries(wrong)) {
    it(`says what is wrong with a file that has ${name}`, async (context) => {
      const project = domeApi(context, {})
      project.write('settings.store.json', typeof store === 'string' ? store : JSON.stringify(store))
      const { status, stderr, stdout } = await mappa(project, ['compare'], environment)
      assert.equal(status, 1)
      assert.match(stderr + stdout, says)
      assert.doesNotMatch(stderr + stdout, /canary/)
    })
  }

  it('refuses names that are nowhere, and values that break a rule of the stage', async (context) => {
    const { project } = await withEtcd(context)
    const unknown = await mappa(project, ['send', 'DOME_KEYS', '--stage', 'production', '--yes'])
    assert.equal(unknown.status, 1)
    assert.match(
      unknown.stderr + unknown.stdout,
      /"DOME_KEYS" is neither a setting nor a name in[\s\S]*Write DOME_KEY\./,
    )
    project.write('.env.production.local', `DOME_KEY=${KEYS.development}\n`)
    const broken = await mappa(project, ['send', '--stage', 'production', '--yes'])
    assert.equal(broken.status, 1)
    assert.match(broken.stderr + broken.stdout, /Nothing was sent[\s\S]*DOME_KEY does not match the pattern/)
    const none = await mappa(domeApi(context, {}), ['compare', '--store-file', 'other.json'])
    assert.match(none.stderr + none.stdout, /no file that says which store to use: other\.json/)
  })
})
