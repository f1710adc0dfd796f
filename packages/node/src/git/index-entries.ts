import { git } from './git.ts'

/** A file of the index, or of a commit. */
export interface IndexEntry {
  /** The path from the top of the repository, with `/`. */
  readonly file: string
  readonly object: string
  readonly kind: 'file' | 'link' | 'submodule'
}

const KINDS: Readonly<Record<string, IndexEntry['kind']>> = { '120000': 'link', '160000': 'submodule' }

/** What the index has, every version of a file that is being merged included; `null` where git did not say. */
export function listIndex(top: string): readonly IndexEntry[] | null {
  const answer = git(top, ['ls-files', '-s', '-z'])
  return answer?.status === 0 ? readEntries(answer.stdout, 1) : null
}

/** What the last commit has; `null` where git did not say, and nothing where there is no commit yet. */
export function listHead(top: string): readonly IndexEntry[] | null {
  if (git(top, ['rev-parse', '--verify', '--quiet', 'HEAD'])?.status !== 0) return []
  const answer = git(top, ['ls-tree', '-r', '-z', '--full-tree', 'HEAD'])
  return answer?.status === 0 ? readEntries(answer.stdout, 2) : null
}

/** @param at the place of the name of the object among the words before the path */
function readEntries(text: string, at: number): readonly IndexEntry[] {
  return text.split('\0').flatMap((line) => {
    const tab = line.indexOf('\t')
    if (tab < 0) return []
    const words = line.slice(0, tab).split(' ')
    return { file: line.slice(tab + 1), object: words[at] ?? '', kind: KINDS[words[0] ?? ''] ?? 'file' }
  })
}
