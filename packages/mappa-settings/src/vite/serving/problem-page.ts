import type { ServerResponse } from 'node:http'
import { escapeForHtml } from '@mappa/core/page/escape'
import type { Problem } from '@mappa/core/problems/problem'
import { countProblems, type Report, sortProblems, toTitle } from '@mappa/core/problems/report'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { toVersion } from '../session/session.ts'
import { markOwn } from './own-answers.ts'

/** The header by which an open problem page sees that something has changed. */
export const PROBLEMS_HEADER = 'x-mappa-problems'

/** What the page asks itself again and again, in milliseconds. */
const POLL_MS = 400

/**
 * A page that tells what is wrong with the settings, in the place of the one that was asked for. It asks whether that is still
 * so, and gives way as soon as it is not.
 *
 * @param version a text that is another one whenever the problems are; it is compared with the header {@link PROBLEMS_HEADER}
 * @param ask the address to ask, from that of the page
 */
export function problemPage(report: Report, version: string, ask: string): string {
  const title = toTitle(report)
  const problems = sortProblems(report.problems)
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escapeHtml(`${title}: ${countProblems(problems)}`)}</title>
<style>${STYLE}</style>
</head>
<body>
<main>
<h1>${escapeHtml(title)}: <em>${countProblems(problems)}</em></h1>
${problems.map(writeSection).join('\n')}
<footer>
${writeLayersLine(report)}
<p>This page goes away by itself when the files are fixed.</p>
</footer>
</main>
<script>
{
const [version, ask] = ${JSON.stringify([version, ask]).replaceAll('<', '\\u003c')}
setInterval(async () => {
  try {
    const { headers } = await fetch(ask || location.href, { method: 'HEAD', headers: { accept: 'text/html' }, cache: 'no-store' })
    if (headers.get('${PROBLEMS_HEADER}') !== version) location.reload()
  } catch {}
}, ${POLL_MS})
}
</script>
</body>
</html>
`
}

/**
 * Answers with the problem page.
 *
 * @param ask where the page asks whether it is still right; itself if left out
 */
export function answerProblems(response: ServerResponse, report: Report, ask = ''): void {
  const version = toVersion(report)
  markOwn(response)
  response.writeHead(500, {
    'content-type': 'text/html',
    'cache-control': 'no-store',
    // Whoever serves the page itself may do so from another port.
    'access-control-expose-headers': PROBLEMS_HEADER,
    [PROBLEMS_HEADER]: version,
  })
  response.end(problemPage(report, version, ask))
}

/**
 * Code that shows the problem page in the place of the page that runs it, and lets nothing behind it run. It stands where a
 * module would have been; whoever serves the page, a module comes from Vite.
 *
 * @param ask the address of the problem page, from the root of Vite's server
 */
export function writeProblemCode(ask: string): string {
  return [
    // In two steps: Vite would take one for the address of an asset.
    'const here = import.meta.url',
    `const problems = globalThis.document && (await fetch(new URL(${JSON.stringify(ask)}, here)))`,
    'if (problems?.status === 500) {',
    '  document.open()',
    '  document.write(await problems.text())',
    '  document.close()',
    // Fixed in the meantime, or about to be checked again.
    `} else if (problems) setTimeout(() => location.reload(), ${POLL_MS})`,
    'await new Promise(() => {})',
    '',
  ].join('\n')
}

/** A page that shows the problem page in its own place; the parts are those of {@link writeProblemCode}. */
export function writeProblemDocument(ask: string): string {
  return `<!doctype html><html><body><script type="module">${writeProblemCode(ask)}</script></body></html>`
}

function writeSection(each: Problem): string {
  const place = getPlace(each)
  return `<section class="${each.severity}">
<p class="place"><b>${each.severity}</b> ${place === '' ? '' : `<code>${escapeHtml(place)}</code>`} <small>${each.code}</small></p>
<p class="sentence">${escapeHtml(each.message)}</p>
${getExcerpt(each)}${toTrail(each)}<p class="hint">${escapeHtml(each.hint)}</p>
</section>`
}

function getPlace({ file, line, column, layer, name, setting }: Problem): string {
  if (file === null) return layer ?? name ?? setting ?? ''
  return line === null ? file : `${file}:${line}:${column ?? 1}`
}

function getExcerpt({ codeFrame, line }: Problem): string {
  if (codeFrame === null) return ''
  const gutter = String(line ?? '')
  const mark = `${' '.repeat(gutter.length)} | ${' '.repeat(codeFrame.mark)}^`
  return `<pre>${escapeHtml(`${gutter} | ${codeFrame.text}`)}\n<i>${mark}</i></pre>\n`
}

function toTrail({ importTrace }: Problem): string {
  return importTrace === null ? '' : `<pre>${importTrace.map(escapeHtml).join('\n')}</pre>\n`
}

function writeLayersLine({ layers, root }: Report): string {
  if (layers === undefined) return ''
  const titles = layers.map(({ title, state }) => `${title}${state === 'absent' ? ' (not found)' : ''}`)
  return `<p>Layers read${root === undefined ? '' : ` in <code>${escapeHtml(root)}</code>`}, lowest first: ${titles.map(escapeHtml).join(', ')}</p>`
}

function escapeHtml(text: string): string {
  return escapeForHtml(escapeInvisible(text))
}

const STYLE = `
:root { color-scheme: light dark; --ground: #f4f3ef; --sheet: #fffefb; --ink: #23262b; --faint: #5d636c; --error: #b3261e; --notice: #85610a; --line: #dcd8cd }
@media (prefers-color-scheme: dark) { :root { --ground: #16181d; --sheet: #1f2228; --ink: #e8e6e1; --faint: #a3a8b0; --error: #ff8a80; --notice: #e5bd62; --line: #363a42 } }
body { margin: 0; background: var(--ground); color: var(--ink); font: 17px/1.5 system-ui, sans-serif }
main { max-width: 56rem; margin: 0 auto; padding: 2.5rem 1.5rem }
h1 { font-size: 1.5rem; font-weight: 650; margin: 0 0 1.5rem }
h1 em { font-style: normal; color: var(--error) }
section { background: var(--sheet); border: 1px solid var(--line); border-left: 5px solid var(--error); border-radius: 6px; padding: 1rem 1.25rem; margin: 0 0 1rem }
section.notice { border-left-color: var(--notice) }
section p { margin: .35rem 0 }
.place b { color: var(--error); margin-right: .6rem }
.notice .place b { color: var(--notice) }
.place small { color: var(--faint); margin-left: .6rem }
code, pre { font-family: ui-monospace, 'DejaVu Sans Mono', monospace; font-size: .88em }
pre { margin: .6rem 0; padding: .6rem .8rem; background: var(--ground); border-radius: 4px; overflow-x: auto }
pre i { font-style: normal; color: var(--error) }
.sentence { font-weight: 550 }
.hint { color: var(--faint) }
.hint::before { content: '→ ' }
footer { color: var(--faint); font-size: .85em; margin-top: 2rem }
`
