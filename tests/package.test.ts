import assert from 'node:assert/strict'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { checkPackage, createPackageFromTarballData } from '@arethetypeswrong/core'
import { build as bundleWith } from 'esbuild'
import { publint } from 'publint'
import { build } from 'vite'
import { importCompat, linkPackages } from './support/compat.ts'
import { configOf, filesIn, KEY, makePage } from './support/page-project.ts'
import { commandForAll, DEFINITION, makeProject, REPOSITORY, run } from './support/project.ts'

const LIBRARY = join(REPOSITORY, 'packages/mappa-settings')
const COMMAND_PACKAGE = join(REPOSITORY, 'packages/mappa-cli')

interface Manifest {
  readonly exports: Record<string, string | Record<string, string>>
  readonly bin?: Record<string, string>
  readonly scripts: Record<string, string>
  readonly dependencies?: unknown
  readonly optionalDependencies?: unknown
  readonly peerDependenciesMeta: Record<string, { readonly optional: boolean }>
  readonly peerDependencies: Record<string, string>
}
const manifest = JSON.parse(readFileSync(join(LIBRARY, 'package.json'), 'utf8')) as Manifest

/** What types of the API are made of, beside what the reference describes. */
const PARTS_OF_TYPES = [
  'Agreeing',
  'Candidate',
  'DEFINITION',
  'Documented',
  'EndingSignal',
  'Flatten',
  'INLINABLE',
  'InJson',
  'IsNeeded',
  'Kind',
  'LoadingCode',
  'NeededOf',
  'Options',
  'PayloadShape',
  'PayloadType',
  'PublicOf',
  'Reaches',
  'SETTING',
  'SETTINGS_ERROR',
  'STORE_ERROR',
  'Scan',
  'Schema',
  'SettingsOrPath',
  'ValueOf',
  'types',
]

interface TypeProblem {
  readonly kind: string
  readonly entrypoint?: string
}

interface Packed {
  readonly files: readonly { readonly path: string }[]
  readonly unpackedSize: number
  readonly filename: string
}

/** What npm would pack of each package. */
const plans = new Map<string, Packed>()

/** What npm would pack of a package, as it is built now. */
function packed(directory: string): Packed {
  const plan = plans.get(directory) ?? pack(directory, '--dry-run')
  plans.set(directory, plan)
  return plan
}

function pack(directory: string, ...words: readonly string[]): Packed {
  const all = ['pack', '--json', '--ignore-scripts', ...words]
  return (JSON.parse(run('npm', all, directory, { HOME: tmpdir() }).stdout) as [Packed])[0]
}

async function problemsOfTypes(context: TestContext): Promise<readonly TypeProblem[]> {
  const { root } = makeProject(context, {})
  const { filename } = pack(LIBRARY, '--pack-destination', root)
  const data = new Uint8Array(readFileSync(join(root, filename)))
  const result = await checkPackage(createPackageFromTarballData(data))
  return result.types === false ? [{ kind: 'no types' }] : (result.problems as readonly TypeProblem[])
}

/** The directories of the packages that npm installs with another one. */
function installedWith(directory: string, found = new Set<string>()): ReadonlySet<string> {
  const { dependencies = {} } = JSON.parse(readFileSync(join(directory, 'package.json'), 'utf8')) as Manifest
  for (const name of Object.keys(dependencies as object)) {
    const places = [directory, join(directory, '../..'), REPOSITORY].map((each) => join(each, 'node_modules', name))
    const place = places.find((each) => existsSync(each))
    if (place === undefined || found.has(place)) continue
    found.add(place)
    installedWith(place, found)
  }
  return found
}

function sizeOf(directory: string): number {
  return readdirSync(directory, { recursive: true, withFileTypes: true })
    .filter((each) => each.isFile() && !each.parentPath.slice(directory.length).includes('node_modules'))
    .reduce((sum, each) => sum + statSync(join(each.parentPath, each.name)).size, 0)
}

/** Bundles `app.mjs` with the library inside, to `out/app.js`. */
const bundleApp = (root: string) =>
  build({
    root,
    configFile: false,
    envDir: false,
    logLevel: 'silent',
    ssr: { noExternal: ['mappa-settings'] },
    build: { ssr: 'app.mjs', outDir: 'out' },
  })

describe('the package', () => {
  for (const [entry, targets] of Object.entries(manifest.exports)) {
    it(`has every file of the entry ${entry}`, () => {
      for (const target of typeof targets === 'string' ? [targets] : Object.values(targets))
        assert.ok(existsSync(join(LIBRARY, target)), target)
    })
  }

  for (const name of ['mappa-settings', 'mappa-cli'])
    it(`gives the linter of packages nothing to say about ${name}`, async () => {
      const { messages } = await publint({ pkgDir: join(REPOSITORY, 'packages', name), pack: false, strict: true })
      assert.deepEqual(messages, [])
    })

  it('gives the linter of types nothing to say but that it is made of ES modules', async (context) => {
    const problems = await problemsOfTypes(context)
    // Node 20.19 and later can require them, and no compiler before exports can import JSON by a name.
    const isKnown = ({ kind, entrypoint = '' }: TypeProblem) =>
      kind === 'CJSResolvesToESM' || (kind === 'NoResolution' && entrypoint.endsWith('.json'))
    assert.deepEqual(
      problems.filter((each) => !isKnown(each)),
      [],
    )
  })

  for (const [name, limit] of Object.entries({ 'mappa-settings': 548_000, 'mappa-cli': 2_750_000 }))
    it(`holds only what users of ${name} need, and is no larger than it has to be`, () => {
      const { files, unpackedSize } = packed(join(REPOSITORY, 'packages', name))
      const strange = files.filter(({ path }) => !/^(dist\/|LICENSE$|README\.md$|package\.json$)/.test(path))
      assert.deepEqual(strange, [])
      assert.ok(unpackedSize < limit, String(unpackedSize))
      // Values of the examples and of tests, and files of tests.
      for (const { path } of files.filter(({ path }) => path.startsWith('dist/'))) {
        assert.doesNotMatch(path, /\.(test|spec)\.|fixture|\.ts$(?<!\.d\.ts)|\.map$/)
        const text = readFileSync(join(REPOSITORY, 'packages', name, path), 'utf8')
        assert.doesNotMatch(text, /made-up|4f1c9a7be2d05836|comet-8814|open-the-sky|\/work\/|\/home\//, path)
      }
    })

  it('has of the engine for source code only what JavaScript needs', () => {
    const textOf = (directory: string) => Object.values(filesIn(join(directory, 'dist'))).join('\n')
    const [library, command] = [textOf(LIBRARY), textOf(COMMAND_PACKAGE)]
    // What only the grammars of other languages say.
    for (const sign of ['@lezer/', 'heredoc', 'docstring']) {
      assert.ok(command.includes(sign), sign)
      assert.ok(!library.includes(sign), sign)
    }
  })

  it('installs at most 40 packages and 12 MB with the command', () => {
    const directories = installedWith(COMMAND_PACKAGE)
    assert.ok(directories.size > 10 && directories.size < 40, [...directories].join(' '))
    const bytes = [...directories].reduce((sum, directory) => sum + sizeOf(directory), 0)
    const { unpackedSize } = packed(COMMAND_PACKAGE)
    assert.ok(bytes + unpackedSize <= 12_000_000, String(bytes + unpackedSize))
  })

  for (const [where, types] of [
    ['in programs of Node', ['@types/node', 'vite']],
    ['in pages without the types of Node', []],
  ] as const)
    it(`has types for every entry, ${where}`, (context) => {
      const entries = Object.keys(manifest.exports)
        // The types of Vite need those of Node.
        .filter((each) => !each.endsWith('json') && (types.length > 0 || each !== './vite'))
        .map((each) => `mappa-settings${each.slice(1)}`)
      const { root } = makeProject(context, {
        'all.ts': `${entries.map((entry, index) => `import * as e${index} from '${entry}'`).join('\n')}\nimport 'mappa-settings/preload'\nexport const all = [${entries.map((_, index) => `e${index}`).join()}]\n`,
      })
      mkdirSync(join(root, 'node_modules/@types'), { recursive: true })
      for (const name of types) symlinkSync(join(REPOSITORY, 'node_modules', name), join(root, 'node_modules', name))
      const options = '--noEmit --strict --module nodenext --target es2023 --lib es2023,dom'.split(' ')
      const ofNode = types.length > 0 ? ['--types', 'node'] : []
      const compiler = join(REPOSITORY, 'node_modules/typescript-7/bin/tsc')
      const { status, stdout } = run(process.execPath, [compiler, ...options, ...ofNode, 'all.ts'], root)
      assert.equal(status, 0, stdout)
    })

  it('has no type that only the library itself needs', () => {
    const reference = Object.values(filesIn(join(REPOSITORY, 'docs/api'))).join('\n')
    const declared = Object.values(filesIn(join(LIBRARY, 'dist/types'))).flatMap((text) =>
      [...text.matchAll(/^(?:declare )?(?:interface|type|class|const|function) (\w+)/gm)].map(([, name]) => name!),
    )
    assert.ok(declared.length > 100)
    const unknown = declared.filter((name) => !new RegExp(`^#+ ${name}\\b`, 'm').test(reference))
    assert.deepEqual([...new Set(unknown)].sort(), PARTS_OF_TYPES)
  })

  it('keeps the preload in a bundle that imports it for its effect', async (context) => {
    const { root } = makeProject(context, {
      'settings.definition.mjs': DEFINITION,
      '.env': 'DOME_URL=http://127.0.0.1\nDOME_KEY=made-up-for-tests\n',
      'app.mjs': `import 'mappa-settings/preload'\nconsole.log(process.env.DOME_URL)`,
    })
    await bundleApp(root)
    assert.equal(run(process.execPath, ['out/app.js'], root).stdout, 'http://127.0.0.1\n')
  })

  it('has types for compilers that know no exports', () => {
    const { types, typesVersions } = JSON.parse(readFileSync(join(LIBRARY, 'package.json'), 'utf8')) as {
      types: string
      typesVersions: Record<string, Record<string, string[]>>
    }
    const files = [types, ...Object.values(typesVersions['*']!).flat()]
    for (const file of files) assert.ok(existsSync(join(LIBRARY, file)), file)
    const entries = Object.keys(manifest.exports).filter((each) => !/^\.$|json$/.test(each))
    assert.deepEqual(Object.keys(typesVersions['*']!).sort(), entries.map((each) => each.slice(2)).sort())
  })

  for (const [name, directory] of Object.entries({ mappa: LIBRARY, 'mappa-cli': COMMAND_PACKAGE })) {
    it(`is packed with what ${name} needs, also from a fresh clone`, () => {
      const { exports, bin, scripts } = JSON.parse(readFileSync(join(directory, 'package.json'), 'utf8')) as Manifest
      const { files } = packed(directory)
      const names = new Set(files.map(({ path }) => path))
      const targets = [...Object.values(exports), ...Object.values(bin ?? {})]
      for (const target of targets.flatMap((each) => (typeof each === 'string' ? [each] : Object.values(each))))
        assert.ok(names.has(target.slice(2)), target)
      assert.ok(names.has('README.md') && names.has('LICENSE'))
      // npm runs it before it packs, and before it installs from a repository.
      assert.equal(scripts.prepack, 'node ../../scripts/build.mjs')
    })
  }

  it('installs nothing else with the library', () => {
    assert.deepEqual([manifest.dependencies, manifest.optionalDependencies], [undefined, undefined])
    const { version } = JSON.parse(readFileSync(join(COMMAND_PACKAGE, 'package.json'), 'utf8')) as { version: string }
    assert.deepEqual(Object.keys(manifest.peerDependencies), ['mappa-cli', 'vite'])
    // The library refuses what this range leaves out.
    assert.equal(manifest.peerDependencies['mappa-cli'], `^${version}`)
    for (const name of Object.keys(manifest.peerDependencies))
      assert.equal(manifest.peerDependenciesMeta[name]!.optional, true)
  })

  it('leaves kinds that a program does not use out of its bundle', async (context) => {
    const { root } = makeProject(context, {
      'app.mjs': `import { defineSettings, setting } from 'mappa-settings'
import { loadSettings } from 'mappa-settings/node'
loadSettings(defineSettings({ dome: { url: setting.url('Address of the dome controller') } }))`,
    })
    await bundleApp(root)
    const text = readFileSync(join(root, 'out/app.js'), 'utf8')
    assert.match(text, /absolute URL/)
    // A label of PEM, and the module of Node that only writing needs.
    for (const part of ['RSA PRIVATE KEY', 'node:crypto']) assert.ok(!text.includes(part), part)
  })

  it('keeps the licences of what is built into the library', () => {
    const licenses = readFileSync(join(LIBRARY, 'dist/third-party-licenses.txt'), 'utf8')
    for (const name of ['@jridgewell/sourcemap-codec', 'jsonc-parser'])
      assert.match(licenses, new RegExp(`^${name} \\d+\\.\\d+\\.\\d+ \\(\\w+\\)\\nCopyright `, 'm'))
    assert.equal(licenses.match(/^Permission is hereby granted, free of charge/gm)?.length, 1)
  })

  it('has a command that works without the library', (context) => {
    const command = commandForAll(context)
    const { root } = makeProject(context, { '.env': 'DOME_URL=http://127.0.0.1\n' })
    rmSync(join(root, 'node_modules'), { recursive: true })
    const definition = DEFINITION.replace(
      /export default/,
      "import { placeOf } from './places.ts'\nexport default",
    ).replace("'Address of the dome controller'", 'placeOf(1)')
    writeFileSync(join(root, 'settings.definition.ts'), definition)
    writeFileSync(join(root, 'places.ts'), 'export const placeOf = (n: number): string => `Place ${n}`\n')
    const { status, stdout, stderr } = run(process.execPath, [command, 'check', '--json'], root)
    assert.equal(status, 1, stderr)
    assert.match(stdout, /"code": "missing"[\s\S]*DOME_KEY/)
  })
})

describe('a page that another bundler makes', () => {
  const bundle = (root: string, contents: string) =>
    bundleWith({
      stdin: { contents, resolveDir: root },
      bundle: true,
      write: false,
      platform: 'browser',
      logLevel: 'silent',
      format: 'esm',
    })

  it('can not be made of what is for servers', async (context) => {
    const { root } = makeProject(context, {})
    await assert.rejects(
      bundle(root, "import { loadSettings } from 'mappa-settings/node'\nconsole.log(loadSettings)"),
      /No matching export in ".*dist\/not-for-pages\/node\.js" for import "loadSettings"/,
    )
    const [made] = (await bundle(root, "import 'mappa-settings/preload'")).outputFiles
    assert.match(made!.text, /is for programs on Node[\s\S]*virtual:mappa\/browser/)
  })

  it('can read runtime settings, which no payload uses to reach prototypes', async (context) => {
    const { root } = makeProject(context, {})
    const [made] = (await bundle(root, "export { runtimeSettings } from 'mappa-settings/browser'")).outputFiles
    const textContent = '{"__proto__.polluted":1,"constructor.prototype.polluted":1,"visitor.notice":"foggy"}'
    Object.assign(globalThis, { document: { querySelectorAll: () => [{ textContent }] } })
    context.after(() => delete (globalThis as { document?: unknown }).document)
    const { runtimeSettings } = await import(`data:text/javascript,${encodeURIComponent(made!.text)}`)
    const settings = runtimeSettings() as { visitor: { notice: string } }
    assert.equal(settings.visitor.notice, 'foggy')
    assert.equal(({} as { polluted?: unknown }).polluted, undefined)
  })
})

describe('the plugin beside other versions of Vite', () => {
  for (const name of ['vite-6', 'vite-7', 'vite']) {
    it(`builds a page with ${name}, and keeps secrets out of it`, async (context) => {
      const { build: buildWith, version } = await importCompat<typeof import('vite')>(name)
      assert.ok(manifest.peerDependencies.vite!.includes(`^${version.split('.')[0]}.`), version)
      const page = makePage(context)
      await buildWith(configOf(page.root))
      const texts = Object.values(filesIn(join(page.root, 'dist'))).join('\n')
      assert.ok(texts.includes('https://maps.fernhollow.example/tonight'))
      assert.ok(!texts.includes('nobody reads this text') && !texts.includes(KEY))
      const leaking = makePage(context, { 'src/main.ts': `document.title = ${JSON.stringify(KEY)}` })
      await assert.rejects(buildWith(configOf(leaking.root)), /secret-in-page|value-in-page/)
      leaking.write(
        'vite.config.mjs',
        "import mappa from 'mappa-settings/vite'\nexport default { plugins: [mappa()] }\n",
      )
      linkPackages(leaking.root, [name])
      const { stderr } = run(process.execPath, [`node_modules/${name}/bin/vite.js`, 'build'], leaking.root)
      assert.equal(stderr.split('value-in-page').length - 1, 1, stderr)
    })
  }

  it('refuses one that is too old, with a sentence', async (context) => {
    const { build: buildWith } = await importCompat<typeof import('vite')>('vite-5')
    await assert.rejects(
      buildWith(configOf(makePage(context).root, { css: { postcss: {} } })),
      /mappa-settings\/vite needs Vite 6\.3 or later/,
    )
  })
})

describe('what runs anywhere, as in pages and edge functions', () => {
  for (const name of ['', '/envfile', '/derive', '/testing', '/browser'])
    it(`imports nothing of Node: mappa-settings${name}`, () => {
      const code = `delete globalThis.process
const { getOwnPropertyNames } = Object
console.log(getOwnPropertyNames(await import('mappa-settings${name}')).length > 0)`
      const { stdout, stderr } = run(process.execPath, ['--input-type=module', '-e', code], REPOSITORY)
      assert.equal(stdout, 'true\n', stderr)
    })
})
