import type { IncomingMessage, ServerResponse } from 'node:http'
import type { Report } from '../core/problems/report.ts'
import { PROBLEMS_HEADER, problemPage } from './problem-page.ts'
import { versionOf } from './session.ts'

/** True for a request of a whole page, as against one of code, styles or data. */
export function isPageRequest({ method, headers }: IncomingMessage): boolean {
  return (method === 'GET' || method === 'HEAD') && headers.accept?.includes('text/html') === true
}

/** Answers with the problem page. */
export function answerProblems(response: ServerResponse, report: Report): void {
  const version = versionOf(report)
  response.writeHead(500, { 'content-type': 'text/html', 'cache-control': 'no-store', [PROBLEMS_HEADER]: version })
  response.end(problemPage(report, version))
}
