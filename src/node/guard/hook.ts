import { guardProblem } from '../../core/problems/of-commands.ts'
import type { problem } from '../../core/problems/problem.ts'
import { SettingsError } from '../../core/problems/settings-error.ts'
import { fs, path } from '../builtin.ts'
import { gitAsConfigured, repositoryOf } from '../git/git.ts'
import { updateFile } from '../writing/update-file.ts'

/** What became of the hook. */
export interface HookOutcome {
  /** The whole path of the hook. */
  readonly file: string
  readonly state: 'written' | 'added to' | 'there already'
}

const MARK = '# Keeps secrets out of commits (mappa guard --install).'

/**
 * Sets a pre-commit hook that looks at what is staged. A hook that is there already is kept: the check goes before it.
 *
 * @param root the folder of the project, which may lie within the repository
 * @throws {SettingsError} where there is no repository, or a hook that is no shell script
 */
export async function installHook(root: string): Promise<HookOutcome> {
  const top = repositoryOf(root)
  if (top === null) refuse(guardProblem('repository-missing', { option: '--install' }))
  const hooks = gitAsConfigured(root, ['rev-parse', '--git-path', 'hooks'])!.stdout.trim()
  const file = path.join(path.resolve(root, hooks), 'pre-commit')
  // A hook runs at the top of the repository.
  const within = path.relative(fs.realpathSync(top!), fs.realpathSync(root)).replaceAll('\\', '/')
  const command = `npx --no-install mappa guard --staged${within === '' ? '' : ` --root '${within.replaceAll("'", "'\\''")}'`} || exit 1`
  let state: HookOutcome['state'] = 'written'
  fs.mkdirSync(path.dirname(file), { recursive: true })
  await updateFile(
    file,
    (before) => {
      if (before === null) return `#!/bin/sh\n${MARK}\n${command}\n`
      if (before.includes(MARK)) {
        state = 'there already'
        return before
      }
      const [first = '', ...rest] = before.split('\n')
      if (!/^#!.*\b(ba|da|k|z)?sh\b/.test(first)) refuse(guardProblem('hook-foreign', { file, command }, { file }))
      state = 'added to'
      // First, since what is there may end in exec or exit.
      return [first, MARK, command, ...rest].join('\n')
    },
    { newMode: 0o755 },
  )
  return { file, state }
}

function refuse(why: ReturnType<typeof problem>): never {
  throw new SettingsError({ title: 'Guard', stage: null, problems: [why] })
}
