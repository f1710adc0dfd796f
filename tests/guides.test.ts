import assert from 'node:assert/strict'
import { chmodSync, cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { COMMAND, REPOSITORY, run, runCommand } from './support/project.ts'

/** The guides, and the example that their commands are run in; `null` for an empty directory. */
const GUIDES: Readonly<Record<string, string | null>> = {
  'moving.md': 'meteor-log',
  'stages.md': null,
  'checking.md': 'deploy',
  'servers.md': null,
  'other-languages.md': 'rain-watch',
  'deploying.md': 'deploy',
  'keys.md': 'deploy',
  'questions.md': 'deploy',
  'seeing.md': 'deploy',
  'many-packages.md': 'fernhollow',
  'programs.md': null,
  'libraries.md': null,
}

/** A step of a guide: a command and what it has to end with, or a file that a block of code shows. */
type Step = { readonly command: string; readonly status: number } | { readonly file: string; readonly text: string }

/** Blocks of code whose first line is a comment with a path are files of the project; blocks of `sh` are commands, one a line. */
function stepsOf(guide: string): readonly Step[] {
  const text = readFileSync(join(REPOSITORY, 'docs/guides', guide), 'utf8')
  return [...text.matchAll(/^```(sh|js|ts|json)\n([\s\S]*?)^```$/gm)].flatMap(([, language, block]): Step[] => {
    if (language === 'sh')
      return block!
        .trim()
        .split('\n')
        .map((line) => ({ command: line, status: Number(/# ends with (\d+)$/.exec(line)?.[1] ?? 0) }))
    const file = /^\/\/ ([\w./-]+)\n/.exec(block!)
    return file === null ? [] : [{ file: file[1]!, text: block!.slice(file[0].length) }]
  })
}

/** The words of a call of mappa in which the shell does nothing but part them; `null` for any other line. */
function readWords(command: string): readonly string[] | null {
  const plain = /^mappa((?: +(?:[\w./:@=,+-]+|'[^']*'))*) *(?:# .*)?$/.exec(command)
  return plain === null ? null : (plain[1]!.match(/'[^']*'|[^\s']+/g) ?? []).map((each) => each.replaceAll("'", ''))
}

/** A copy of an example, as a colleague has it after cloning: without keys, in a git repository, with `mappa` on the PATH. */
function colleague(
  context: TestContext,
  example: string | null,
): { readonly directory: string; readonly PATH: string } {
  const root = mkdtempSync(join(tmpdir(), 'mappa-guide-'))
  context.after(() => rmSync(root, { recursive: true, force: true }))
  const directory = join(root, example ?? 'fern')
  mkdirSync(directory)
  if (example === null) writeFileSync(join(directory, 'package.json'), '{ "type": "module" }')
  else
    cpSync(join(REPOSITORY, 'examples', example), directory, {
      recursive: true,
      filter: (path) => !/demo\.ts$|\.local$/.test(path),
    })
  // What a program of the guide imports.
  mkdirSync(join(root, 'node_modules'))
  for (const [name, place] of Object.entries({
    'mappa-settings': 'packages/mappa-settings',
    hono: 'node_modules/hono',
  }))
    symlinkSync(join(REPOSITORY, place), join(root, 'node_modules', name))
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
      const steps = stepsOf(guide)
      assert.ok(steps.length > 3)
      for (const step of steps) {
        if ('file' in step) {
          mkdirSync(join(directory, step.file, '..'), { recursive: true })
          writeFileSync(join(directory, step.file), step.text)
          continue
        }
        const { command, status } = step
        const words = readWords(command)
        const environment = { PATH, HOME: directory }
        const found =
          words === null
            ? run('sh', ['-c', command], directory, environment)
            : runCommand(words, directory, environment)
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
