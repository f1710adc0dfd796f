import type { StageView } from '../../views/overview.ts'

/** How many problems a stage has, in words. */
export function countWords({ errors, notices }: StageView): string {
  if (errors > 0) return `${errors} error${errors === 1 ? '' : 's'}`
  return notices > 0 ? `OK, ${notices} notice${notices === 1 ? '' : 's'}` : 'OK'
}

/** How bad a stage is. */
export function chooseTone({ errors, notices }: StageView): 'error' | 'notice' | 'good' {
  if (errors > 0) return 'error'
  return notices > 0 ? 'notice' : 'good'
}

/** The head of a column. */
export function StageHead({ stage }: { readonly stage: StageView }) {
  return (
    <>
      <span className="stage__name">{stage.name}</span>
      <span className={`count count--${chooseTone(stage)}`}>{countWords(stage)}</span>
    </>
  )
}
