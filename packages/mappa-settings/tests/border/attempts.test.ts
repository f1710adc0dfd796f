import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { ATTEMPTS } from '@mappa/tests/support/border/attempts'
import { pageOf, tryAttempt, type Vite } from '@mappa/tests/support/border/try-attempt'
import { importCompat } from '@mappa/tests/support/compat'

const versions: readonly Vite[] = await Promise.all(
  ['vite', 'vite-7', 'vite-6'].map((name) => importCompat<Vite>(name)),
)
const newest = versions[0]!

describe('the chain of imports', () => {
  for (const vite of versions)
    it(`shows the statement that brings a value, not the types (vite ${vite.version})`, async (context) => {
      const main = `import type { key as Key } from './desk.ts'\nimport {\n  key,\n} from './desk.ts'\nconsole.log(key satisfies typeof Key)\n`
      const files = { 'src/desk.ts': "export { settings as key } from 'virtual:mappa/server'\n", 'src/main.ts': main }
      const page = pageOf(context, { how: '', files }, vite)
      await assert.rejects(
        page.build({}, {}),
        /src\/main\.ts:2 +import \{ key, \} from '\.\/desk\.ts' {3}<-- change this\n/,
      )
    })
})

// A long run tries them with older versions.
for (const [title, attempts] of ATTEMPTS)
  describe(`${title} (vite ${newest.version})`, () => {
    for (const attempt of attempts)
      it(`hands nothing out: ${attempt.how}`, (context) => tryAttempt(context, attempt, newest))
  })
