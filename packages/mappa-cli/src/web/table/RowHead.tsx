import type { RowView } from '../../views/overview.ts'

/** The head of a row: the name of a setting, what it is for and what it is. */
export function RowHead({ row }: { readonly row: RowView }) {
  return (
    <>
      <span className="row__name">{row.name}</span>
      {row.secret ? <span className="tag">secret</span> : null}
      {row.public ? <span className="tag">public</span> : null}
      <span className="row__what">{row.description}</span>
    </>
  )
}
