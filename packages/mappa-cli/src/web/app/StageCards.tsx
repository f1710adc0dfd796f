import { Button } from 'react-aria-components'
import type { StageView } from '../../views/overview.ts'
import type { ProblemView } from '../../views/problem.ts'
import type { CellPlace } from '../table/SettingsTable.tsx'
import { chooseTone, countWords } from '../table/StageHead.tsx'

/** So many problems of a stage are named; the rest are counted. */
const MOST_NAMED = 3

interface StageCardsProps {
  readonly stages: readonly StageView[]
  /** The stage that is shown alone. */
  readonly active: string | null
  readonly onSelect: (place: CellPlace) => void
  readonly onStage: (stage: string | null) => void
}

/** What is wrong in each stage, at one look. */
export function StageCards({ stages, active, onSelect, onStage }: StageCardsProps) {
  return (
    <ul className="cards" aria-label="Stages">
      {stages.map((stage) => (
        <li key={stage.name} className={`card card--${chooseTone(stage)}`}>
          <h2 className="card__head">
            <span>{stage.name}</span>
            <span className={`count count--${chooseTone(stage)}`}>{countWords(stage)}</span>
          </h2>
          <ul className="card__problems">
            {stage.problems.slice(0, MOST_NAMED).map((each) => (
              <li key={`${each.code} ${each.setting ?? ''} ${each.place ?? ''} ${each.message}`}>
                <CardProblem problem={each} stage={stage.name} onSelect={onSelect} />
              </li>
            ))}
          </ul>
          {stage.problems.length > MOST_NAMED ? (
            <Button
              className="link card__more"
              aria-label={`Show ${stage.name} alone`}
              onPress={() => onStage(active === stage.name ? null : stage.name)}
            >
              and {stage.problems.length - MOST_NAMED} more
            </Button>
          ) : null}
        </li>
      ))}
    </ul>
  )
}

interface CardProblemProps {
  readonly problem: ProblemView
  readonly stage: string
  readonly onSelect: (place: CellPlace) => void
}

function CardProblem({ problem: { message, name, setting, severity }, stage, onSelect }: CardProblemProps) {
  const sentence = firstSentence(message)
  const shown = name !== null && sentence.startsWith(`${name} `) ? sentence.slice(name.length + 1) : sentence
  const text = (
    <>
      {name === null ? null : <b>{name} </b>}
      {shown}
    </>
  )
  if (setting === null) return <span className={`card__problem card__problem--${severity}`}>{text}</span>
  return (
    <Button className={`link card__problem card__problem--${severity}`} onPress={() => onSelect({ setting, stage })}>
      {text}
    </Button>
  )
}

/** What is wrong; the rest of a message stands in the story. */
function firstSentence(message: string): string {
  const end = message.search(/\. [A-Z]/)
  return end < 0 ? message : message.slice(0, end + 1)
}
