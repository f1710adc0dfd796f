import assert from 'node:assert/strict'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { makePage, type PageProject } from '@mappa/tests/support/page-project'
import { createJiti } from 'jiti'
import { type Definition, publicPayload, type SettingsError } from 'mappa-settings'
import { publicReplacements } from 'mappa-settings/bundler'
import { loadSettings } from 'mappa-settings/node'

const KEY = 'slip-93ae77c0d1f4'
const ACCOUNT = JSON.stringify({ desk: { key: KEY } })
const LEDGER = 'ledgers of the north dome'

const DEFINITION = `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  desk: {
    key: setting.string('Key', { secret: true, optional: true }),
    account: setting.json('Account', { secret: true, optional: true }),
    store: setting.url('Store', { secret: true, optional: true }),
    doors: setting.list('Doors', { secret: true, optional: true }),
    ledger: setting.string('Ledger', { optional: true, formerly: ['DESK_BOOK'] }),
  },
  visitor: {
    notice: setting.string('Line', { public: true, default: '' }),
    later: setting.string('Line that a server sends', { public: true, readAt: 'runtime', default: '' }),
  },
})
`

interface Case {
  readonly how: string
  /** Layer files; `NOTICE` stands for each public variable in turn. */
  readonly files: Readonly<Record<string, string>>
  /** The code of the problem; `null` where nothing is wrong. */
  readonly code: string | null
  readonly allowInPage?: readonly string[]
}

const encode = (encoding: 'base64' | 'base64url' | 'hex') => Buffer.from(`key ${KEY}.`).toString(encoding)
const referring = (how: string, text: string, code: string | null = 'public-refers-to-private'): Case => ({
  how,
  code,
  files: { '.env': `DESK_LEDGER='${LEDGER}'\nSET=1\n${text}\n` },
})
const holding = (how: string, line: string, notice: string, code: string | null = 'public-is-private'): Case => ({
  how,
  code,
  files: { '.env.production.local': `${line}\nNOTICE='${notice}'\n` },
})

const CASES: readonly Case[] = [
  referring('a reference', 'NOTICE=${DESK_LEDGER}'),
  referring('a reference to a variable that refers', 'MIDDLE=${DESK_LEDGER}\nNOTICE="at ${MIDDLE}"'),
  referring('three references', 'ONE=${DESK_LEDGER}\nTWO="${ONE}."\nTHREE="${TWO}."\nNOTICE="${THREE}"'),
  referring('the word for nothing', 'NOTICE=${NONE:-${DESK_LEDGER}}'),
  referring('the word for something', 'NOTICE=${SET:+${DESK_LEDGER}}'),
  referring('a former name', 'NOTICE="at ${DESK_BOOK:-none}, ${DESK_LEDGER}"'),
  {
    how: 'a value under a former name',
    files: { '.env': `DESK_BOOK='${LEDGER}'\nMIDDLE=\${DESK_BOOK}\nNOTICE="at \${MIDDLE}"\n` },
    code: 'public-refers-to-private',
  },
  {
    how: 'the value of a lower layer',
    files: {
      '.env': `DESK_LEDGER='${LEDGER}'\nNOTICE="at \${DESK_LEDGER}"\n`,
      '.env.production': 'NOTICE="${NOTICE}!"\n',
    },
    code: 'public-refers-to-private',
  },
  referring('that something is set', 'NOTICE=${DESK_LEDGER:+open}', null),
  referring('a word that is not taken', 'NOTICE=${SET:-${DESK_LEDGER}}', null),
  { ...referring('what may be in pages', 'NOTICE=${DESK_LEDGER}', null), allowInPage: ['DESK_LEDGER'] },
  holding('the same value', `DESK_KEY=${KEY}`, KEY),
  holding('a text with the value', `DESK_KEY=${KEY}`, `the ${KEY} of tonight`),
  holding('base64', `DESK_KEY=${KEY}`, encode('base64')),
  holding('base64 for addresses', `DESK_KEY=${KEY}`, encode('base64url')),
  holding('hexadecimal digits', `DESK_KEY=${KEY}`, encode('hex')),
  holding('a member of JSON', `DESK_ACCOUNT='${ACCOUNT}'`, KEY),
  holding('JSON with the value', `DESK_KEY=${KEY}`, JSON.stringify({ at: [KEY] })),
  holding('the password of an address', `DESK_STORE='postgres://fern:${KEY}@db:5432/sky'`, KEY),
  holding('an item of a list', `DESK_DOORS='north-51ce20, ${KEY}'`, KEY),
  { ...holding('a secret that is allowed', `DESK_KEY=${KEY}`, KEY), allowInPage: ['DESK_KEY'] },
  { ...holding('a name that no setting has', '', 'tonight', 'allow-in-page-wrong'), allowInPage: ['DESK_LEDGR'] },
  holding('a private value', `DESK_LEDGER='${LEDGER}'`, LEDGER),
  holding('a text that has a private value in it', `DESK_LEDGER='${LEDGER}'`, `Our ${LEDGER} are open`, null),
  holding('something else', `DESK_KEY=${KEY}`, 'slip of tonight', null),
]

/** Every way by which a public value gets to a page; each throws where it may not. */
const WAYS: Readonly<Record<string, (page: PageProject, allowInPage: readonly string[]) => Promise<unknown>>> = {
  'a build': (page, allowInPage) => page.build({}, { allowInPage }),
  async 'the payload'(page, allowInPage) {
    const file = join(page.root, 'settings.definition.ts')
    const definition = (await createJiti(page.root).import(file, { default: true })) as Definition
    return publicPayload(loadSettings(definition, { root: page.root, stage: 'production', environment: {} }), {
      allowInPage,
    })
  },
  async 'the table of replacements'(page, allowInPage) {
    return publicReplacements('.', { root: page.root, stage: 'production', environment: {}, allowInPage })
  },
}

function pageOf(context: TestContext, files: Readonly<Record<string, string>>, name: string): PageProject {
  const layers = Object.entries(files).map(([file, text]) => [file, text.replaceAll('NOTICE', name)])
  return makePage(context, {
    'settings.definition.ts': DEFINITION,
    '.env': '',
    '.env.production.local': '',
    'src/main.ts': "import { settings } from 'virtual:mappa/browser'\ndocument.title = settings.visitor.notice\n",
    ...Object.fromEntries(layers),
  })
}

describe('a public value that is made of a private one', () => {
  for (const [way, give] of Object.entries(WAYS))
    for (const one of CASES)
      it(`${one.code === null ? 'may be' : 'is refused as'} ${one.how}, by ${way}`, async (context) => {
        await mustBeJudged(context, give, one, 'VISITOR_NOTICE')
        await mustBeJudged(context, give, one, 'VISITOR_LATER')
      })
})

async function mustBeJudged(
  context: TestContext,
  give: (typeof WAYS)[string],
  { files, code, allowInPage = [] }: Case,
  name: string,
): Promise<void> {
  const error: SettingsError | null = await give(pageOf(context, files, name), allowInPage).then(
    () => null,
    (thrown) => thrown,
  )
  const codes = error?.report.problems.map((each) => each.code) ?? []
  if (code === null) return assert.deepEqual([error?.message, codes], [undefined, []])
  // What is wrong with the list of what is allowed is told as well.
  assert.ok(
    codes.some((each) => each === code || (each === 'allow-in-page-wrong' && allowInPage.length > 0)),
    `${codes}`,
  )
  for (const hidden of [KEY, encode('base64'), encode('hex')]) assert.ok(!error!.message.includes(hidden))
}
