import type { StageView } from '../../views/overview.ts'
import { StageHead } from './StageHead.tsx'

/** The head of the table: a column for each stage. */
export function TableHead({ stages }: { readonly stages: readonly StageView[] }) {
  return (
    <thead>
      <tr>
        <th scope="col">Setting</th>
        {stages.map((stage) => (
          <th key={stage.name} scope="col">
            <StageHead stage={stage} />
          </th>
        ))}
      </tr>
    </thead>
  )
}
