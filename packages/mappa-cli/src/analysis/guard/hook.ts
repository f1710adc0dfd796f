import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '@mappa/node/fs/builtin'
import { isInside, resolveRealPath, toRelativePath } from '@mappa/node/fs/places'
import { updateFile } from '@mappa/node/fs/update-file'
import { findRepository, gitAsConfigured } from '@mappa/node/git/git'
import { findProgram } from '@mappa/node/git/programs'

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

/** The command that installs the hook, for projects that have none of their own. */
interface OwnCommand {
  /** The program of Node and the file that it runs, both absolute paths. */
  readonly node: string
  readonly file: string
  /** Where the command is in `PATH`, an absolute path; `null` where it is not there. It stays when the command is replaced by a newer one. */
  readonly link: string | null
}

/**
 * The lines of the hook. It takes the command from whichever package has it installed, else the one that installed the hook, and looks at the
 * secrets of all packages of the repository. Without the command it stops the commit and says what to do, since nobody looked.
 */
function writeHookLines(places: readonly string[], own: OwnCommand | null): string {
  const all = own === null || own.link === null ? places : [...places, own.link]
  const direct = own === null ? '' : writeDirectLines(own)
  return `${MARK}
mappa_found=
for mappa in ${[...new Set(all)].map(quote).join(' ')}; do
  if [ -x "$mappa" ]; then
    "$mappa" guard --staged --repository || exit 1
    mappa_found=yes
    break
  fi
done
${direct}if [ -z "$mappa_found" ]; then
  echo 'The commit was stopped: mappa, which looks for secrets in it, is not installed here.' >&2
  echo 'Run npm install, or npm install --global mappa-cli; or git commit --no-verify, to commit without it.' >&2
  exit 1
fi
${END}`
}

function writeDirectLines({ node, file }: OwnCommand): string {
  return `if [ -z "$mappa_found" ] && [ -x ${quote(node)} ] && [ -f ${quote(file)} ]; then
  ${quote(node)} ${quote(file)} guard --staged --repository || exit 1
  mappa_found=yes
fi
`
}

const quote = (text: string) => `'${text.replaceAll("'", "'\\''")}'`

/**
 * The command that runs now, if it will still be there: not one of this repository, which has a place of its own, and not one that npx keeps
 * for a while.
 */
function findOwnCommand(top: string): OwnCommand | null {
  const file = resolveRealPath(process.argv[1] ?? '')
  if (file === '' || isInside(file, top) || /[\\/]_npx[\\/]/.test(file)) return null
  const link = findProgram('mappa', top)
  return { node: process.execPath, file, link: link !== null && resolveRealPath(link) === file ? link : null }
}

/** The places that a hook looks for the command in. */
function findPlaces(lines: string): string[] {
  const listed = /^for mappa in (.*); do$/m.exec(lines)?.[1] ?? ''
  return [...listed.matchAll(/'((?:[^']|'\\'')*)'/g)].map(([, each]) => each!.replaceAll("'\\''", "'"))
}

/**
 * Sets a pre-commit hook that looks at what is staged. A hook that is there already is kept: the check goes before it.
 *
 * @param root the directory of the project, which may lie within the repository
 * @throws {SettingsError} where there is no repository, a hook that is no shell script or one of others, or no command that the hook could
 * run; nothing has changed then
 */
export async function installHook(root: string): Promise<HookOutcome> {
  const found = findRepository(root)
  if (found === null) refuse(guardProblem('repository-missing', { option: '--install' }))
  const top = fs.realpathSync(found!)
  // A hook runs at the top of the repository.
  const within = toRelativePath(top, fs.realpathSync(root))
  const place = within === '' ? COMMAND : `${within}/${COMMAND}`
  const own = findOwnCommand(top)
  if (own === null && !fs.existsSync(path.join(top, place))) refuse(guardProblem('hook-without-command', {}))
  const file = path.join(findHooksDirectory(root, top), 'pre-commit')
  let state: HookOutcome['state'] = 'written'
  fs.mkdirSync(path.dirname(file), { recursive: true })
  await updateFile(
    file,
    (before) => {
      if (before === null) return `#!/bin/sh\n${writeHookLines([place], own)}\n`
      const from = before.indexOf(MARK)
      const to = before.indexOf(END, from)
      if (from >= 0 && to >= 0) {
        const places = findPlaces(before.slice(from, to)).filter((each) => !path.isAbsolute(each))
        const lines = writeHookLines([...new Set([...places, place])], own)
        const after = before.slice(0, from) + lines + before.slice(to + END.length)
        state = after === before ? 'there already' : 'added to'
        return after
      }
      const [first = '', ...rest] = before.split('\n')
      const command = `${place} guard --staged --repository`
      if (!/^#!.*\b(ba|da|k|z)?sh\b/.test(first)) refuse(guardProblem('hook-foreign', { file, command }, { file }))
      state = 'added to'
      // First, since what is there may end in exec or exit.
      return [first, writeHookLines([place], own), ...rest].join('\n')
    },
    { newMode: 0o755 },
  )
  return { file, state }
}

/**
 * The directory of the hooks. One outside of the repository is that of all repositories of a user, or whatever a stranger has written into the
 * configuration of this one.
 */
function findHooksDirectory(root: string, top: string): string {
  const answer = (...words: string[]) => gitAsConfigured(root, ['rev-parse', ...words])!.stdout.trim()
  const hooks = path.resolve(root, answer('--git-path', 'hooks'))
  const common = path.resolve(root, answer('--git-common-dir'))
  const real = resolveRealPath(hooks)
  if (!isInside(real, top) && !isInside(real, resolveRealPath(common)))
    refuse(guardProblem('hooks-elsewhere', { directory: hooks }))
  return hooks
}

function refuse(why: Problem): never {
  throw new SettingsError({ title: 'Guard', stage: null, problems: [why] })
}
