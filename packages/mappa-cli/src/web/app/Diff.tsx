import type { DiffView } from '../../views/diff.ts'

const SIGNS = { added: '+', removed: '-', same: ' ', place: '' } as const
const WORDS = { added: 'added', removed: 'removed', same: '', place: '' } as const

/** What changes in one file. */
export function Diff({ diff }: { readonly diff: DiffView }) {
  return (
    <figure className="diff">
      <figcaption>
        {diff.file}
        {diff.isNew ? <span className="tag">new file</span> : null}
      </figcaption>
      <pre>
        {diff.lines.map(({ kind, text }, index) => (
          <span key={index} className={`diff__line diff__line--${kind}`}>
            <span className="hidden">{WORDS[kind]}</span>
            {SIGNS[kind]}
            {text}
            {'\n'}
          </span>
        ))}
      </pre>
    </figure>
  )
}
