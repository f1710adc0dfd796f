import type { Overview, StageView } from '../../views/overview.ts'
import type { Story } from '../../views/story.ts'
import { ProblemItem } from '../app/ProblemItem.tsx'
import { Layers } from '../story/Layers.tsx'
import { Rules } from '../story/Rules.tsx'
import { chooseTone, countWords } from '../table/StageHead.tsx'
import { ReportTable } from './ReportTable.tsx'

/** What keeps a report from loading or running anything, wherever it is opened. */
const POLICY = "default-src 'none'; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none'"

interface ReportProps {
  readonly overview: Overview
  readonly stories: readonly Story[]
  readonly styles: string
}

/** The stages of a project, to be read without the command that made it. */
export function Report({ overview, stories, styles }: ReportProps) {
  const { project, stages } = overview
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="color-scheme" content="light dark" />
        <meta name="generator" content="mappa view" />
        <meta httpEquiv="Content-Security-Policy" content={POLICY} />
        <title>{`Settings of ${project}`}</title>
        <style dangerouslySetInnerHTML={{ __html: styles }} />
      </head>
      <body className="report">
        <header className="bar">
          <h1 className="bar__name">
            Settings <span className="bar__project">{project}</span>
          </h1>
        </header>
        <main>
          <ul className="cards" aria-label="Stages">
            {stages.map((stage) => (
              <Stage key={stage.name} stage={stage} />
            ))}
          </ul>
          <ReportTable overview={overview} linked={new Set(stories.map(({ path }) => path))} />
          {stories.length === 0 ? null : (
            <h2 className="report__heading">Settings with problems or overridden values</h2>
          )}
          {stories.map((story) => (
            <Details key={story.path} story={story} />
          ))}
        </main>
        <footer className="report__footer">
          Written by mappa view. Secrets are left out; equal ones have the same mark.
        </footer>
      </body>
    </html>
  )
}

function Stage({ stage }: { readonly stage: StageView }) {
  return (
    <li className={`card card--${chooseTone(stage)}`}>
      <h2 className="card__head">
        <span>{stage.name}</span>
        <span className={`count count--${chooseTone(stage)}`}>{countWords(stage)}</span>
      </h2>
      <ul className="card__problems">
        {stage.problems.map(({ code, message, name, place, setting, severity }) => (
          <li
            key={`${code} ${setting ?? ''} ${place ?? ''} ${message}`}
            className={`card__problem card__problem--${severity}`}
          >
            {setting === null ? (
              message
            ) : (
              <a href={`#${setting}`}>{name === null ? message : <Named name={name} text={message} />}</a>
            )}
          </li>
        ))}
      </ul>
    </li>
  )
}

/** A sentence whose name stands out. */
function Named({ name, text }: { readonly name: string; readonly text: string }) {
  if (!text.startsWith(`${name} `)) return text
  return (
    <>
      <b>{name}</b>
      {text.slice(name.length)}
    </>
  )
}

function Details({ story }: { readonly story: Story }) {
  return (
    <details id={story.path} className="finding" open={story.stages.some(({ problems }) => problems.length > 0)}>
      <summary>
        <code>{story.name}</code> {story.description}
      </summary>
      {story.stages.map((stage) => (
        <section key={stage.stage} className="report__stage">
          <h3>In {stage.stage}</h3>
          {stage.problems.length === 0 ? null : (
            <ul className="problems">
              {stage.problems.map((each) => (
                <ProblemItem key={`${each.code} ${each.message}`} problem={each} />
              ))}
            </ul>
          )}
          <Layers story={stage} open={null} />
          {stage.problems.length === 0 ? null : <Rules rules={stage.rules} />}
        </section>
      ))}
    </details>
  )
}
