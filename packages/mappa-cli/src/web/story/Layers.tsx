import type { StageStory } from '../../views/story.ts'
import { FileLink } from '../app/FileLink.tsx'

interface LayersProps {
  readonly story: StageStory
  readonly open: ((file: string, line: number) => Promise<boolean>) | null
}

/** What each layer says, lowest first, and which one wins. */
export function Layers({ story: { layers, verdict }, open }: LayersProps) {
  return (
    <section className="layers">
      <h3>Layers, lowest first</h3>
      <ol>
        {layers.map(({ id, state, place, file, line, shown, setOn }) => (
          <li
            key={id}
            className={`layer layer--${state === 'in use' || state === 'overridden' ? state.replace(' ', '-') : 'none'}`}
          >
            <FileLink place={place} file={file} line={line} open={open} />
            <span className="layer__value">
              {shown ?? (state === 'in use' || state === 'overridden' ? 'invalid' : state)}
              {state === 'overridden' ? <span className="badge badge--plain">overridden</span> : null}
              {state === 'in use' ? <span className="badge badge--good">in use</span> : null}
              {setOn === null ? null : <span className="cell__from"> set on {setOn}</span>}
            </span>
          </li>
        ))}
      </ol>
      <p className="story__line">{verdict}</p>
    </section>
  )
}
