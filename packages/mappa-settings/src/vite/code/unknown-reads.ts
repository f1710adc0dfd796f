import { readFileSync } from 'node:fs'
import { relative } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import { toPosition } from '@mappa/core/text/position'
import type { ProjectState } from '../session/project-state.ts'
import type { UnknownRead } from './page-imports.ts'

/** A problem for each read of something that is no public setting: there is no such setting, or no page may have it. */
export function reportUnknownReads(reads: readonly UnknownRead[], id: string, state: ProjectState): Problem[] {
  const file = id.replace(/[?#].*$/, '')
  return reads.map(({ asked, chain, written }) => {
    const place = { file: relative(state.root, file), ...getPlace(written, file) }
    const private_ = state.definition?.settings.find(({ path }) => path === chain || chain.startsWith(`${path}.`))
    return reportUnknownRead(private_?.path ?? asked, state, place)
  })
}

/**
 * The same for one path.
 *
 * @param place where it is read
 */
export function reportUnknownRead(asked: string, { definition }: ProjectState, place: object): Problem {
  const settings = definition?.settings ?? []
  const private_ = settings.find(({ path, public: isPublic }) => path === asked && !isPublic)
  if (private_ !== undefined) {
    const what = private_.secret ? 'a secret' : 'not public'
    return pageProblem(
      'read-not-public',
      { read: `settings.${asked}`, what, path: asked },
      { setting: asked, ...place },
    )
  }
  const paths = settings.flatMap((each) => (each.public ? [each.path] : []))
  return pageProblem('public-unknown', { asked, near: makeClosestMatch(paths)(asked) }, { setting: asked, ...place })
}

/** Where an expression stands in a file as it was written. */
function getPlace(written: string, file: string): { line: number | null; column: number | null } {
  let text = ''
  try {
    text = readFileSync(file, 'utf8')
  } catch {
    // A module that is made up has no lines.
  }
  const at = text.indexOf(written)
  return at < 0 ? { line: null, column: null } : toPosition(text, at)
}
