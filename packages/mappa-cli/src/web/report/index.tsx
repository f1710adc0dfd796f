import { renderToStaticMarkup } from 'react-dom/server'
import type { Overview } from '../../views/overview.ts'
import type { Story } from '../../views/story.ts'
import styles from '../style/page.css?inline'
import ownStyles from '../style/report.css?inline'
import { Report } from './Report.tsx'

/**
 * Writes a report as one file of HTML, which needs no script and loads nothing.
 *
 * @param overview the stages side by side
 * @param stories those of the settings that something is to be said about
 */
export function renderReport(overview: Overview, stories: readonly Story[]): string {
  const page = renderToStaticMarkup(<Report overview={overview} stories={stories} styles={`${styles}\n${ownStyles}`} />)
  return `<!doctype html>\n${page}\n`
}
