import type { ProblemView } from '../../views/problem.ts'
import { ProblemItem } from './ProblemItem.tsx'

/** What keeps the page from being up to date, above everything else. */
export function Failures({ problems }: { readonly problems: readonly ProblemView[] }) {
  if (problems.length === 0) return null
  return (
    <section className="failures" role="alert">
      <h2>This can't be read any more. Below is what it was before.</h2>
      <ul className="problems">
        {problems.map((each) => (
          <ProblemItem key={`${each.code} ${each.message}`} problem={each} />
        ))}
      </ul>
    </section>
  )
}
