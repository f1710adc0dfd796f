import { type Badge, sourceWords, toBadges, valueWords } from '../../views/cell-words.ts'
import type { CellView } from '../../views/overview.ts'

interface CellBodyProps {
  readonly cell: CellView
  readonly stage: string
  readonly isChanged: boolean
}

/** What stands in a cell: the value, and below it where it comes from and what is to be noticed. */
export function CellBody({ cell, stage, isChanged }: CellBodyProps) {
  const badges = toBadges(cell, stage, isChanged)
  return (
    <>
      <span className="cell__value">
        {valueWords(cell)}{' '}
        {cell.mark === null ? null : (
          <span className="mark" title="Equal values have the same mark, another one each time">
            {cell.mark}
          </span>
        )}
      </span>{' '}
      <span className="cell__more">
        {badges.filter(({ tone }) => tone !== 'plain').map(asBadge)}
        <span className="cell__from">{sourceWords(cell)}</span>{' '}
        {badges.filter(({ tone }) => tone === 'plain').map(asBadge)}
      </span>
    </>
  )
}

function asBadge({ text, tone }: Badge) {
  return (
    <span key={text} className={`badge badge--${tone}`}>
      {text}{' '}
    </span>
  )
}
