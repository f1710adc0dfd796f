import assert from 'node:assert/strict'
import { chmodSync, cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { COMMAND, REPOSITORY, run } from './support/project.ts'

/** The guides, and the example that their commands are run in. */
const GUIDES: Readonly<Record<string, string>> = {
  'moving.md': 'meteor-log',
  'other-languages.md': 'rain-watch',
  'deploying.md': 'deploy',
  'ci.md': 'deploy',
  'seeing.md': 'deploy',
  'many-packages.md': 'fernhollow',
}

/** A line of a guide, and what it has to end with. */
interface Line {
  readonly command: string
  readonly status: number
}

function linesOf(guide: string): readonly Line[] {
  const text = readFileSync(join(REPOSITORY, 'docs/guides', guide), 'utf8')
  const blocks = [...text.matchAll(/^```sh\n([\s\S]*?)^```$/gm)].map((match) => match[1]!)
  return blocks
    .flatMap((block) => block.trim().split('\n'))
    .map((line) => ({ command: line, status: Number(/# ends with (\d+)$/.exec(line)?.[1] ?? 0) }))
}

/** A copy of an example, as a colleague has it after cloning: without keys, in a git repository, with `mappa` on the PATH. */
function colleague(context: TestContext, example: string): { readonly directory: string; readonly PATH: string } {
  const root = mkdtempSync(join(tmpdir(), 'mappa-guide-'))
  context.after(() => rmSync(root, { recursive: true, force: true }))
  const directory = join(root, example)
  cpSync(join(REPOSITORY, 'examples', example), directory, {
    recursive: true,
    filter: (path) => !/demo\.ts$|\.local$/.test(path),
  })
  mkdirSync(join(root, 'bin'))
  writeFileSync(join(root, 'bin/mappa'), `#!/bin/sh\nexec ${process.execPath} ${COMMAND} "$@"\n`)
  chmodSync(join(root, 'bin/mappa'), 0o755)
  run('git', ['init', '-q', directory], root)
  return { directory, PATH: `${join(root, 'bin')}:${process.env.PATH}` }
}

describe('the commands of the guide', () => {
  for (const [guide, example] of Object.entries(GUIDES)) {
    it(`${guide} do what it says`, (context) => {
      const { directory, PATH } = colleague(context, example)
      const lines = linesOf(guide)
      assert.ok(lines.length > 3)
      for (const { command, status } of lines) {
        const found = run('sh', ['-c', command], directory, { PATH, HOME: directory })
        assert.equal(found.status, status, `${command}\n${found.stdout}${found.stderr}`)
        assert.ok(
          !/drill-of-the-pipeline|open-the-sky|4f1c9a7be2d05836|7d20b6f3e81c495a|comet-8814/.test(
            found.stdout + found.stderr,
          ),
          command,
        )
      }
    })
  }
})
