import { isSettingsError } from '@mappa/core/problems/settings-error'
import type { Edit } from '../views/page.ts'
import { problemView } from '../views/problem.ts'
import { explainSetting } from '../views/story.ts'
import { previewEdit, saveEdit } from './editing.ts'
import { KnownReaders } from './known-readers.ts'
import type { LiveProject } from './live-project.ts'
import { Moves } from './moving.ts'
import { openInEditor } from './open-editor.ts'
import { BadRequest, getText } from './read-body.ts'
import type { Sessions } from './sessions.ts'

/** What a page can ask for. Each takes the object of the request, and gives what goes back as JSON. */
export type Route = (body: Readonly<Record<string, unknown>>) => unknown

/** An answer with a status of its own. */
export class Answer {
  readonly status: number
  readonly body: unknown

  constructor(status: number, body: unknown) {
    this.status = status
    this.body = body
  }
}

/**
 * Everything that a page can ask for, by path. All of it is asked for with POST, so that nothing stands in an address.
 *
 * @param live the project
 * @param editor what opens files; `null` for none
 * @param newLink makes a link for another window
 */
export function makeRoutes(
  live: LiveProject,
  editor: string | null,
  newLink: () => string,
): Readonly<Record<string, Route>> {
  const moves = new Moves(live)
  const readers = new KnownReaders(live)
  return {
    '/api/state': () => live.state,
    '/api/story': (body) =>
      explainSetting(getText(body, 'setting'), live.inspections, readers.of(getText(body, 'setting'))),
    '/api/edit/preview': (body) => previewEdit(live, parseEdit(body, live)),
    '/api/edit/save': (body) => saveEdit(live, parseEdit(body, live), getText(body, 'version')),
    '/api/survey': () => moves.survey(),
    '/api/move/plan': (body) => moves.plan(getText(body, 'finding'), getText(body, 'stage')),
    '/api/move/apply': async (body) => ({ files: await moves.apply(getText(body, 'id')) }),
    '/api/link': () => ({ link: newLink() }),
    '/api/open': (body) => {
      const line = body['line']
      const isLine = typeof line === 'number' && Number.isSafeInteger(line) && line > 0
      const opened =
        editor !== null && openInEditor(live.project.root, getText(body, 'file'), isLine ? line : 1, editor)
      return { opened }
    },
  }
}

/** Exchanges the token of a link for a key. The only thing that can be asked for without one. */
export function makeSessionRoute(sessions: Sessions): Route {
  return (body) => {
    const key = sessions.exchange(getText(body, 'token'))
    return key === null
      ? new Answer(401, { error: 'The link was used already, or is too old.', problems: [] })
      : new Answer(200, { key })
  }
}

/** Answers a request; what is wrong with it becomes an answer as well. */
export async function answer(route: Route, body: Readonly<Record<string, unknown>>): Promise<Answer> {
  try {
    const found = await route(body)
    if (found instanceof Answer) return found
    return found === null ? new Answer(404, { problems: [] }) : new Answer(200, found)
  } catch (error) {
    if (error instanceof BadRequest) return new Answer(400, { error: error.message, problems: [] })
    if (isSettingsError(error)) return new Answer(422, { problems: error.problems.map(problemView) })
    throw error
  }
}

/** @throws {SettingsError} for a stage that there is not: its name becomes part of the name of a file */
function parseEdit(body: Readonly<Record<string, unknown>>, { project }: LiveProject): Edit {
  const stage = body['stage']
  if (stage !== null && typeof stage !== 'string') throw new BadRequest('stage must be a text or null.')
  return {
    setting: getText(body, 'setting'),
    text: getText(body, 'text'),
    stage: stage === null ? null : project.stage(stage, 'the page').stage,
    local: body['local'] === true,
  }
}
