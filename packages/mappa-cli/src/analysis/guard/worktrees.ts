import { fs, path } from '@mappa/node/fs/builtin'
import { findRepository, git } from '@mappa/node/git/git'

/**
 * The same directory in the other working trees of a repository: files of one machine may lie in one of them alone, and their values are secrets
 * in all.
 *
 * @param root a directory of one of them
 */
export function listOtherRoots(root: string): readonly string[] {
  const top = findRepository(root)
  if (top === null) return []
  const own = fs.realpathSync(top)
  const inner = path.relative(own, fs.realpathSync(root))
  const lines = git(root, ['worktree', 'list', '--porcelain'])?.stdout.split('\n') ?? []
  return lines
    .flatMap((line) => (line.startsWith('worktree ') ? line.slice('worktree '.length) : []))
    .filter((directory) => directory !== own && fs.existsSync(path.join(directory, inner)))
    .map((directory) => path.join(directory, inner))
}
