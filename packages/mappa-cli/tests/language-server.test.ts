import assert from 'node:assert/strict'
import { spawnSync } from 'node:child_process'
import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { edited, type LanguageClient, startLanguageClient } from '@mappa/tests/support/language-client'
import { needs } from '@mappa/tests/support/programs'
import { COMMAND, DEFINITION, makeProject, type Project } from '@mappa/tests/support/project'
import type {
  CodeAction,
  CompletionItem,
  Diagnostic,
  Hover,
  Location,
  WorkspaceEdit,
} from 'vscode-languageserver-protocol'

const DRILL = 'drill-canary-7Qm2Zt94'
const OPEN = 'open-canary-9f3Kq27L'
const GAUGE = 'gauge-canary-1Lz08XvB'
const JSON_DEFINITION = {
  stages: ['development', 'production'],
  settings: {
    server: {
      logLevel: {
        kind: 'choice',
        enum: ['quiet', 'normal', 'chatty'],
        default: 'normal',
        description: 'How much is logged',
      },
    },
    dome: {
      url: { kind: 'url', description: 'Address of the dome controller' },
      key: { kind: 'string', secret: true, minLength: 12, description: 'Key the dome controller asks for' },
      motors: { kind: 'boolean', default: false, description: 'Whether the motors may really move' },
    },
    night: { places: { kind: 'integer', minimum: 1, maximum: 40, description: 'Visitors in one night' } },
  },
}
const FILES = {
  'settings.definition.json': `${JSON.stringify(JSON_DEFINITION, null, 2)}\n`,
  '.gitignore': '.env.local\n.env.*.local\nnode_modules\n',
  '.env': 'MAPS=https://maps.fernhollow.example\nNIGHT_PLACES=12\n',
  '.env.development': 'DOME_URL=http://127.0.0.1:4200\n',
  '.env.development.local': `DOME_KEY=${DRILL}\n`,
  '.env.production': 'DOME_URL="${MAPS}/dome"\n',
  '.env.production.local': `DOME_KEY=${OPEN}\n`,
  '.env.example': "# (absolute URL; required)\nDOME_URL='<DOME_URL>'\n#DOME_MOTORS=false\n",
  'src/dome.ts':
    'export const open = (settings: Settings) => fetch(settings.dome.url)\nconst key = process.env.DOME_KEY\n',
}
interface Opened extends LanguageClient {
  readonly project: Project
}
const start = async (context: TestContext, files: Record<string, string> = {}): Promise<Opened> => {
  const project = makeProject(context, { ...FILES, ...files })
  project.git('init')
  return { project, ...(await startLanguageClient(context, project.root)) }
}

/** `2:10-17 not-url`: where a diagnostic is, from 1, and its code. */
const told = (diagnostics: readonly Diagnostic[]) =>
  diagnostics
    .map(
      ({ range: { start: from, end }, code }) => `${from.line + 1}:${from.character + 1}-${end.character + 1} ${code}`,
    )
    .sort()
const labels = (items: readonly CompletionItem[]) => items.map(({ label }) => label)
const placesOf = (client: Opened, locations: readonly Location[]) =>
  locations
    .map(
      ({ uri, range }) =>
        `${uri.slice(client.uri('').length + 1)}:${range.start.line + 1}:${range.start.character + 1}`,
    )
    .sort()
const fixesFor = async (client: Opened, file: string, diagnostics: Diagnostic[]): Promise<CodeAction[]> =>
  client.connection.sendRequest('textDocument/codeAction', {
    textDocument: { uri: client.uri(file) },
    range: { start: { line: 0, character: 0 }, end: { line: 99, character: 0 } },
    context: { diagnostics },
  })
const mustHideSecrets = ({ received }: LanguageClient) => {
  for (const canary of [DRILL, OPEN, GAUGE]) assert.ok(!received.join('').includes(canary), canary)
}

describe('the language server: what is wrong', () => {
  const texts: Readonly<Record<string, readonly [text: string, told: readonly string[]]>> = {
    'nothing, where all is well': ['DOME_URL=https://dome.fernhollow.example\n', []],
    'a value of the wrong kind': ['DOME_URL=dome\nDOME_MOTORS=perhaps\n', ['1:10-14 not-url', '2:13-20 not-boolean']],
    'a name that is nearly one': [
      'DOME_URL=https://dome.fernhollow.example\nexport DOME_MOTRS=yes\n',
      ['2:8-18 name-near'],
    ],
    'a name that is missing, at the end of the file': ['# The dome\n', ['2:1-1 missing']],
    'a value without quotes': ['DOME_URL=https://dome.fernhollow.example\nNOTE=a b\n', ['2:7-9 spaces-unquoted']],
    'an open quote': ['DOME_URL="https://dome.fernhollow.example\n', ['1:10-2 missing', '1:10-42 quote-open']],
    'a secret that git would take along': [
      `DOME_URL=https://dome.fernhollow.example\nDOME_KEY=${OPEN}\n`,
      ['2:1-9 secret-not-ignored'],
    ],
    'a reference to nothing': ['DOME_URL=${MAPPS}/dome\n', ['1:12-17 reference-unset']],
  }
  for (const [what, [text, expected]] of Object.entries(texts))
    it(`tells of ${what}`, async (context) => {
      const client = await start(context)
      const found = told(await client.open('.env.production', text))
      if (what === 'an open quote')
        assert.ok(
          found.some((each) => each.endsWith('quote-open')),
          found.join(),
        )
      else if (what === 'a reference to nothing')
        assert.ok(found.length > 0 && found[0]!.startsWith('1:'), found.join())
      else assert.deepEqual(found, expected)
      mustHideSecrets(client)
    })

  it('counts what is typed and not saved, also in other files', async (context) => {
    const client = await start(context)
    assert.deepEqual(told(await client.open('.env.production')), [])
    await client.open('.env')
    await client.type('.env', 'MAPS=maps\nNIGHT_PLACES=120\n')
    assert.deepEqual(told(await client.told('.env.production', (found) => found.length > 0)), ['1:10-24 not-url'])
    assert.deepEqual(told(await client.told('.env', (found) => found.length > 0)), ['2:14-17 above-maximum'])
    const changed = FILES['settings.definition.json'].replace('"maximum": 40', '"maximum": 400')
    await client.open('settings.definition.json', changed)
    await client.told('.env', (found) => found.length === 0)
    assert.ok((await client.type('settings.definition.json', '{ "settings": ')).length > 0)
    await client.type('settings.definition.json', changed)
    await client.told('settings.definition.json', (found) => found.length === 0)
  })

  it('sees what changes on the disk', async (context) => {
    const client = await start(context)
    assert.deepEqual(told(await client.open('.env.production')), [])
    client.project.write('.env', 'NIGHT_PLACES=12\n')
    await client.told('.env.production', (found) => found.length > 0)
  })

  it('tells nothing of files that belong to no project, and stays alive', async (context) => {
    const client = await start(context)
    client.project.write('settings.definition.json', 'wrong')
    client.project.write('elsewhere/none.txt', '')
    await client.connection.sendNotification('textDocument/didOpen', {
      textDocument: { uri: client.uri('.env.production'), languageId: 'x', version: 1, text: 'DOME_URL=x\n' },
    })
    assert.equal(await client.at('hover', '.env.production', 1, 3), null)
    client.project.write('settings.definition.json', FILES['settings.definition.json'])
    await client.open('settings.definition.json')
    assert.deepEqual(told(await client.open('.env.development', 'DOME_URL=x\n')), ['1:10-11 not-url'])
  })

  it('shows what should be a setting in sources, and moves it', async (context) => {
    const client = await start(context, {
      'package.json': '{ "type": "module", "dependencies": { "mappa-settings": "*" } }',
      'src/gauge.ts': `export const gauge = { apiKey: '${GAUGE}' }\n`,
    })
    const found = await client.open('src/gauge.ts')
    assert.deepEqual(told(found), ['1:32-55 secret-in-code'])
    assert.match(String(found[0]!.message), /^GAUGE_API_KEY, \(secret, 21 characters\), stands in the code/)
    const [fix] = await fixesFor(client, 'src/gauge.ts', found)
    assert.equal(fix?.title, 'Move GAUGE_API_KEY to the settings')
    await client.connection.sendRequest('workspace/executeCommand', fix.command!)
    assert.match(client.messages[0]!, /^GAUGE_API_KEY was moved, with the value for development\. Written: /)
    const root = client.project.root
    assert.ok(!readFileSync(join(root, 'src/gauge.ts'), 'utf8').includes(GAUGE))
    assert.ok(readFileSync(join(root, '.env.development.local'), 'utf8').includes(`GAUGE_API_KEY=${GAUGE}`))
    mustHideSecrets(client)
  })
})

describe('the language server: completion', () => {
  const cases: Readonly<
    Record<string, readonly [file: string, text: string, line: number, column: number, labels: readonly string[]]>
  > = {
    'names that are missing in the file': [
      '.env.development',
      'DOME_URL=x\n',
      2,
      1,
      ['SERVER_LOG_LEVEL', 'DOME_MOTORS', 'NIGHT_PLACES'],
    ],
    'names behind export': [
      '.env.development',
      'export NIGHT\n',
      1,
      13,
      ['SERVER_LOG_LEVEL', 'DOME_URL', 'DOME_MOTORS', 'NIGHT_PLACES'],
    ],
    'secrets in a file of this machine': [
      '.env.development.local',
      '\n',
      1,
      1,
      ['SERVER_LOG_LEVEL', 'DOME_URL', 'DOME_KEY', 'DOME_MOTORS', 'NIGHT_PLACES'],
    ],
    'the words of a choice': ['.env', 'SERVER_LOG_LEVEL=\n', 1, 18, ['quiet', 'normal', 'chatty']],
    'true and false': ['.env', 'DOME_MOTORS="\n', 1, 14, ['true', 'false']],
    'names after ${': [
      '.env.production',
      'DOME_URL="${\n',
      1,
      13,
      ['MAPS', 'NIGHT_PLACES', 'SERVER_LOG_LEVEL', 'DOME_MOTORS'],
    ],
    'nothing in single quotes': ['.env.production', "DOME_URL='${\n", 1, 13, []],
    'nothing in a comment': ['.env.production', '# DO\n', 1, 5, []],
    'nothing for the value of a text': ['.env.production', 'NOTE=\n', 1, 6, []],
  }
  for (const [what, [file, text, line, column, expected]] of Object.entries(cases))
    it(`offers ${what}`, async (context) => {
      const client = await start(context)
      await client.open(file, text)
      assert.deepEqual(
        labels((await client.at<CompletionItem[] | null>('completion', file, line, column)) ?? []),
        expected,
      )
      mustHideSecrets(client)
    })

  it('says what each name is, and offers what a stage lacks first', async (context) => {
    const client = await start(context)
    await client.open('.env.production', 'NIGHT_PLACES=3\n\n')
    const items = await client.at<CompletionItem[]>('completion', '.env.production', 2, 1)
    const url = items.find(({ label }) => label === 'DOME_URL')!
    assert.deepEqual([url.detail, url.sortText], ['absolute URL, missing', '0 DOME_URL'])
    assert.deepEqual(url.textEdit, {
      range: { start: { line: 1, character: 0 }, end: { line: 1, character: 0 } },
      newText: 'DOME_URL=',
    })
    const { documentation } = await client.connection.sendRequest<CompletionItem>('completionItem/resolve', url)
    assert.match(
      JSON.stringify(documentation),
      /Address of the dome controller.*Example: `DOME_URL=http:\/\/127\.0\.0\.1:4200`/,
    )
  })
})

describe('the language server: what a name means', () => {
  it('says what a setting is and which layer wins, without secrets', async (context) => {
    const client = await start(context)
    await client.open('.env.production')
    await client.open('src/dome.ts')
    const hover = await client.at<Hover>('hover', 'src/dome.ts', 1, 60)
    assert.equal(
      (hover.contents as { value: string }).value,
      `**DOME\\_URL** · \`dome.url\` · absolute URL

Address of the dome controller

- absolute URL
- required

| Stage | Value | From |
| --- | --- | --- |
| development | \`http://127.0.0.1:4200\` | .env.development:1 |
| production | \`https://maps.fernhollow.example/dome\` | .env.production:1 |`,
    )
    await client.open('.env.production.local')
    const key = await client.at<Hover>('hover', '.env.production.local', 1, 12)
    assert.match((key.contents as { value: string }).value, /\| production \| secret \| \.env\.production\.local:1 \|/)
    assert.equal(await client.at('hover', '.env.production', 9, 1), null)
    mustHideSecrets(client)
  })

  it('leads from code to the values, and from a value to the definition', async (context) => {
    const client = await start(context)
    await client.open('.env.production')
    await client.open('src/dome.ts')
    const values = await client.at<Location[]>('definition', 'src/dome.ts', 1, 60)
    assert.deepEqual(placesOf(client, values), ['.env.development:1:1', '.env.production:1:1'])
    const line = FILES['settings.definition.json'].split('\n').findIndex((each) => each.includes('"url"')) + 1
    const setting = await client.at<Location[]>('definition', '.env.production', 1, 3)
    assert.deepEqual(placesOf(client, setting), [`settings.definition.json:${line}:8`])
    const all = await client.at<Location[]>('references', '.env.production', 1, 3, {
      context: { includeDeclaration: true },
    })
    assert.deepEqual(placesOf(client, all), [
      '.env.development:1:1',
      '.env.production:1:1',
      `settings.definition.json:${line}:8`,
      'src/dome.ts:1:51',
    ])
  })

  const renames: Readonly<Record<string, readonly [file: string, line: number, column: number, to: string]>> = {
    'a layer file': ['.env.production', 1, 3, 'DOME_CONTROLLER_URL'],
    'the code': ['src/dome.ts', 1, 66, 'controllerUrl'],
    'the definition': ['settings.definition.json', 0, 9, 'controllerUrl'],
  }
  for (const [where, [file, line, column, to]] of Object.entries(renames))
    it(`renames a setting everywhere, from ${where}`, async (context) => {
      const client = await start(context, { '.env.local': 'COPY="${DOME_URL}/copy" # DOME_URL\n' })
      await client.open(file)
      const keyLine = FILES['settings.definition.json'].split('\n').findIndex((each) => each.includes('"url"')) + 1
      const at = [file, line === 0 ? keyLine : line, column] as const
      assert.notEqual(await client.at('prepareRename', ...at), null)
      const { changes = {} } = await client.at<WorkspaceEdit>('rename', ...at, { newName: to })
      const after = Object.fromEntries(
        Object.entries(changes).map(([uri, edits]) => {
          const name = uri.slice(client.uri('').length + 1)
          return [name, edited(readFileSync(join(client.project.root, name), 'utf8'), edits)]
        }),
      )
      assert.deepEqual(after, {
        '.env.development': FILES['.env.development'].replace('DOME_URL', 'DOME_CONTROLLER_URL'),
        '.env.production': FILES['.env.production'].replace('DOME_URL', 'DOME_CONTROLLER_URL'),
        '.env.local': 'COPY="${DOME_CONTROLLER_URL}/copy" # DOME_URL\n',
        '.env.example': FILES['.env.example'].replaceAll('DOME_URL', 'DOME_CONTROLLER_URL'),
        'settings.definition.json': FILES['settings.definition.json'].replace('"url"', '"controllerUrl"'),
        'src/dome.ts': FILES['src/dome.ts'].replace('dome.url', 'dome.controllerUrl'),
      })
      for (const [name, text] of Object.entries(after)) writeFileSync(join(client.project.root, name), text)
      assert.equal(client.project.mappa(['check', '--all']).status, 0)
    })

  it('renames the path in the rules of other settings', async (context) => {
    const definition = FILES['settings.definition.json'].replace(
      '"kind": "integer"',
      '"kind": "integer", "optional": true, "requiredIf": { "dome.motors": true }',
    )
    const client = await start(context, {
      'settings.definition.json': definition,
      '.env.development': 'DOME_URL=http://127.0.0.1:4200\nDOME_MOTORS=no\n',
    })
    await client.open('.env.development')
    const { changes = {} } = await client.at<WorkspaceEdit>('rename', '.env.development', 2, 3, {
      newName: 'DOME_MOVING',
    })
    const after = edited(definition, changes[client.uri('settings.definition.json')]!)
    assert.match(after, /"moving": \{/)
    assert.match(after, /"requiredIf": \{ "dome\.moving": true \}/)
  })

  it('fits what was typed a moment ago', async (context) => {
    const client = await start(context)
    await client.open('.env.production')
    await client.open('src/dome.ts')
    const text = `// one line more\n\n${FILES['src/dome.ts']}`
    const typed = client.type('src/dome.ts', text)
    void client.type('.env.production', `# one line more\n${FILES['.env.production']}`)
    const { changes = {} } = await client.at<WorkspaceEdit>('rename', '.env.production', 2, 3, {
      newName: 'DOME_ROOF_URL',
    })
    await typed
    assert.equal(edited(text, changes[client.uri('src/dome.ts')]!), text.replace('dome.url', 'dome.roofUrl'))
  })

  it('says that a definition can not be read', async (context) => {
    const client = await start(context, {
      'settings.definition.json': '{ "settings": { "dome": { "kind": "rain" } } }',
    })
    assert.ok(told(await client.open('.env.production')).length > 0)
    assert.match(String((await client.open('settings.definition.json'))[0]!.message), /rain/)
  })

  const refused: Readonly<Record<string, readonly [to: string, says: RegExp]>> = {
    'a name that is taken': ['DOME_KEY', /DOME_KEY is the name of dome\.key already/],
    'a name of another group': ['NIGHT_URL', /it must begin with DOME_/],
    'what is no name': ['DOME URL', /can't be the name of a variable/],
  }
  for (const [what, [to, says]] of Object.entries(refused))
    it(`refuses to rename to ${what}`, async (context) => {
      const client = await start(context)
      await client.open('.env.production')
      await assert.rejects(client.at('rename', '.env.production', 1, 3, { newName: to }), says)
    })
})

describe('the language server: quick fixes', () => {
  const fixes: Readonly<Record<string, readonly [text: string, title: string, after: string]>> = {
    'quotes a value': ['DOME_URL=x\nNOTE=a b # c\n', 'Quote the value of NOTE', "DOME_URL=x\nNOTE='a b' # c\n"],
    'renames a near name': ['DOME_ULR=x\n', 'Rename DOME_ULR to DOME_URL', 'DOME_URL=x\n'],
    'removes a duplicate': [
      'DOME_URL=x\nDOME_URL=y\n',
      'Remove the value of DOME_URL that the last one overrides',
      'DOME_URL=y\n',
    ],
    'adds what is missing': ['# The dome', 'Add DOME_URL to .env.production', '# The dome\nDOME_URL=\n'],
    'removes spaces around =': ['DOME_URL = x\n', 'Remove the spaces around =', 'DOME_URL=x\n'],
    'writes the word that was meant': [
      'DOME_URL=x\nSERVER_LOG_LEVEL=Quiet\n',
      'Write quiet',
      'DOME_URL=x\nSERVER_LOG_LEVEL=quiet\n',
    ],
    'writes the name that was meant': ['DOME_URL\n', 'Write DOME_URL', 'DOME_URL=\n'],
    'corrects a reference': [
      'DOME_URL=https://x.example/${NIGHT_PLACE}\n',
      'Refer to NIGHT_PLACES',
      'DOME_URL=https://x.example/${NIGHT_PLACES}\n',
    ],
    'writes = for :': ['DOME_URL: x\n', 'Write = in place of :', 'DOME_URL=x\n'],
  }
  for (const [what, [text, title, after]] of Object.entries(fixes))
    it(`${what}`, async (context) => {
      const client = await start(context)
      const actions = await fixesFor(client, '.env.production', await client.open('.env.production', text))
      const fix = actions.find((each) => each.title === title)
      assert.ok(fix, `there are: ${actions.map((each) => each.title).join(', ')}`)
      assert.equal(edited(text, fix.edit!.changes![client.uri('.env.production')]!), after)
    })

  it('moves a secret to the file of this machine, which git ignores', async (context) => {
    const client = await start(context, { '.gitignore': 'node_modules\n', '.env.production.local': '' })
    const text = `DOME_URL=https://dome.fernhollow.example\nDOME_KEY=${OPEN}\n`
    const [fix] = await fixesFor(client, '.env.production', await client.open('.env.production', text))
    assert.equal(fix?.title, 'Move DOME_KEY to .env.production.local, which git ignores')
    await client.connection.sendRequest('workspace/executeCommand', fix.command!)
    const file = join(client.project.root, '.env.production.local')
    assert.equal(readFileSync(file, 'utf8'), `DOME_KEY=${OPEN}\n`)
    assert.equal(statSync(file).mode & 0o777, 0o600)
    assert.match(readFileSync(join(client.project.root, '.gitignore'), 'utf8'), /\.env\.\*\.local/)
    const edits = client.edits[0]!.changes![client.uri('.env.production')]!
    assert.equal(edited(text, edits), 'DOME_URL=https://dome.fernhollow.example\n')
    mustHideSecrets(client)
  })

  it('takes whitespace from a secret without sending it', async (context) => {
    const client = await start(context)
    const text = `DOME_KEY=' ${DRILL} '\n`
    const [fix] = await fixesFor(client, '.env.production.local', await client.open('.env.production.local', text))
    assert.equal(fix?.title, 'Remove the whitespace around the value of DOME_KEY')
    const after = edited(text, fix.edit!.changes![client.uri('.env.production.local')]!)
    assert.equal(after, `DOME_KEY=${DRILL}\n`)
    mustHideSecrets(client)
  })

  it('never overwrites another value of that secret', async (context) => {
    const client = await start(context)
    const text = `DOME_URL=https://dome.fernhollow.example\nDOME_KEY=${DRILL}\n`
    const [fix] = await fixesFor(client, '.env.production', await client.open('.env.production', text))
    await client.connection.sendRequest('workspace/executeCommand', fix!.command!)
    assert.match(client.messages[0]!, /DOME_KEY has another value in \.env\.production\.local: remove one of the two\./)
    assert.equal(readFileSync(join(client.project.root, '.env.production.local'), 'utf8'), `DOME_KEY=${OPEN}\n`)
    assert.deepEqual(client.edits, [])
  })
})

describe('the language server in an editor', () => {
  it('shows problems, hovers and renames in Neovim', needs('neovim'), (context) => {
    const project = makeProject(context, FILES)
    project.git('init')
    project.write('.env.production', 'DOME_URL=dome\n')
    const said = join(project.root, 'said.json')
    project.write(
      'try.lua',
      `
local said = {}
local client = vim.lsp.start_client({
  name = 'mappa', cmd = { '${process.execPath}', '${COMMAND}', 'language-server', '--stdio' }, root_dir = '${project.root}',
})
vim.cmd('edit .env.production')
local buffer = vim.api.nvim_get_current_buf()
vim.lsp.buf_attach_client(buffer, client)
vim.wait(15000, function() return #vim.diagnostic.get(buffer) > 0 end, 50)
for _, each in ipairs(vim.diagnostic.get(buffer)) do table.insert(said, each.code) end
local params = { textDocument = vim.lsp.util.make_text_document_params(buffer), position = { line = 0, character = 2 } }
local hover = vim.lsp.buf_request_sync(buffer, 'textDocument/hover', params, 15000)
table.insert(said, hover[client].result.contents.value)
vim.api.nvim_buf_set_lines(buffer, 0, 1, false, { 'DOME_URL=https://dome.fernhollow.example' })
vim.wait(15000, function() return #vim.diagnostic.get(buffer) == 0 end, 50)
table.insert(said, #vim.diagnostic.get(buffer))
params.newName = 'DOME_CONTROLLER_URL'
local renamed = vim.lsp.buf_request_sync(buffer, 'textDocument/rename', params, 15000)
vim.lsp.util.apply_workspace_edit(renamed[client].result, 'utf-16')
table.insert(said, vim.api.nvim_buf_get_lines(buffer, 0, 1, false)[1])
vim.fn.writefile({ vim.json.encode(said) }, '${said}')
vim.cmd('qall!')
`,
    )
    const { PATH } = process.env
    const options = { cwd: project.root, env: { PATH, HOME: project.root }, encoding: 'utf8' as const, timeout: 60_000 }
    const { stderr } = spawnSync('nvim', ['--headless', '--clean', '-c', 'luafile try.lua'], options)
    assert.ok(existsSync(said), stderr)
    const [code, hover, left, line] = JSON.parse(readFileSync(said, 'utf8')) as [string, string, number, string]
    assert.equal(code, 'not-url')
    assert.match(hover, /Address of the dome controller/)
    assert.equal(left, 0)
    assert.equal(line, 'DOME_CONTROLLER_URL=https://dome.fernhollow.example')
  })

  it('needs --stdio, and ends when the editor is gone', async (context) => {
    const project = makeProject(context, { 'settings.definition.ts': DEFINITION })
    assert.equal(project.mappa(['language-server']).status, 2)
    const { child, connection } = await startLanguageClient(context, project.root)
    const ended = new Promise((resolve) => child.once('exit', resolve))
    await connection.sendRequest('shutdown')
    await connection.sendNotification('exit')
    assert.equal(await ended, 0)
  })
})
