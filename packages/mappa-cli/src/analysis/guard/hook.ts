import { guardProblem } from '../../../../mappa/src/core/problems/makers/guard.ts'
import type { problem } from '../../../../mappa/src/core/problems/problem.ts'
import { SettingsError } from '../../../../mappa/src/core/problems/settings-error.ts'
import { fs, path } from '../../../../mappa/src/node/fs/builtin.ts'
import { updateFile } from '../../../../mappa/src/node/fs/update-file.ts'
import { gitAsConfigured, repositoryOf } from '../../project/git/git.ts'

/** What became of the hook. */
export interface HookOutcome {
  /** The absolute path of the hook. */
  readonly file: string
  readonly state: 'written' | 'added to' | 'there already'
}

const MARK = '# Keeps secrets out of commits (mappa guard --install).'
const END = '# End of mappa guard.'

/** Where the command lies in a package, from the top of the repository. */
const COMMAND = 'node_modules/.bin/mappa'

/**
 * The lines of the hook. It takes the command from whichever package has it installed, and looks at the secrets of all packages of
 * the repository. Without the command it stops the commit and says what to do, since nobody looked.
 */
function hookLines(places: readonly string[]): string {
  const quoted = places.map((each) => `'${each.replaceAll("'", "'\\''")}'`)
  return `${MARK}
mappa_found=
for mappa in ${quoted.join(' ')}; do
  if [ -x "$mappa" ]; then
    "$mappa" guard --staged --repository || exit 1
    mappa_found=yes
    break
  fi
done
if [ -z "$mappa_found" ]; then
  echo 'The commit was stopped: mappa, which looks for secrets in it, is not installed here.' >&2
  echo 'Run npm install; or git commit --no-verify, to commit without it.' >&2
  exit 1
fi
${END}`
}

/** The places that a hook looks for the command in. */
function placesIn(lines: string): string[] {
  const listed = /^for mappa in (.*); do$/m.exec(lines)?.[1] ?? ''
  return [...listed.matchAll(/'((?:[^']|'\\'')*)'/g)].map(([, each]) => each!.replaceAll("'\\''", "'"))
}

/**
 * Sets a pre-commit hook that looks at what is staged. A hook that is there already is kept: the check goes before it.
 *
 * @param root the directory of the project, which may lie within the repository
 * @throws {SettingsError} where there is no repository, or a hook that is no shell script
 */
export async function installHook(root: string): Promise<HookOutcome> {
  const top = repositoryOf(root)
  if (top === null) refuse(guardProblem('repository-missing', { option: '--install' }))
  const hooks = gitAsConfigured(root, ['rev-parse', '--git-path', 'hooks'])!.stdout.trim()
  const file = path.join(path.resolve(root, hooks), 'pre-commit')
  // A hook runs at the top of the repository.
  const within = path.relative(fs.realpathSync(top!), fs.realpathSync(root)).replaceAll('\\', '/')
  const own = within === '' ? COMMAND : `${within}/${COMMAND}`
  let state: HookOutcome['state'] = 'written'
  fs.mkdirSync(path.dirname(file), { recursive: true })
  await updateFile(
    file,
    (before) => {
      if (before === null) return `#!/bin/sh\n${hookLines([own])}\n`
      const from = before.indexOf(MARK)
      const to = before.indexOf(END, from)
      if (from >= 0 && to >= 0) {
        const places = placesIn(before.slice(from, to))
        state = places.includes(own) ? 'there already' : 'added to'
        if (places.includes(own)) return before
        return before.slice(0, from) + hookLines([...places, own]) + before.slice(to + END.length)
      }
      const [first = '', ...rest] = before.split('\n')
      const command = `${own} guard --staged --repository`
      if (!/^#!.*\b(ba|da|k|z)?sh\b/.test(first)) refuse(guardProblem('hook-foreign', { file, command }, { file }))
      state = 'added to'
      // First, since what is there may end in exec or exit.
      return [first, hookLines([own]), ...rest].join('\n')
    },
    { newMode: 0o755 },
  )
  return { file, state }
}

function refuse(why: ReturnType<typeof problem>): never {
  throw new SettingsError({ title: 'Guard', stage: null, problems: [why] })
}
