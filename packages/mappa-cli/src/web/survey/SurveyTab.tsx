import { useEffect, useState } from 'react'
import { Button } from 'react-aria-components'
import type { FindingView } from '../../views/findings.ts'
import type { SurveyView } from '../../views/page.ts'
import { FileLink } from '../app/FileLink.tsx'
import type { CodeSource } from '../source/page-source.ts'
import { MoveDialog } from './MoveDialog.tsx'

interface SurveyTabProps {
  readonly code: CodeSource
  readonly stages: readonly string[]
  readonly open: ((file: string, line: number) => Promise<boolean>) | null
}

/** Settings and keys that are still in the code. */
export function SurveyTab({ code, stages, open }: SurveyTabProps) {
  const [survey, setSurvey] = useState<SurveyView | null>(null)
  const [error, setError] = useState<string | null>(null)
  const [moving, setMoving] = useState<FindingView | null>(null)
  const [round, setRound] = useState(0)
  useEffect(() => {
    let isOpen = true
    code.survey().then(
      (found) => isOpen && setSurvey(found),
      (reason: Error) => isOpen && setError(reason.message),
    )
    return () => {
      isOpen = false
    }
  }, [code, round])
  if (survey === null) return <p className="wait">{error ?? 'Scanning the code …'}</p>
  const { findings, files, skipped } = survey
  return (
    <main className="survey">
      <div className="toolbar">
        <h2>
          {findings.length === 0
            ? 'No settings or keys found in the code'
            : `${findings.length} setting${findings.length === 1 ? '' : 's'} or keys in the code`}
        </h2>
        <span className="toolbar__count">
          {files} file{files === 1 ? '' : 's'} scanned{skipped.length > 0 ? `, ${skipped.length} skipped` : ''}
        </span>
        <Button className="button button--quiet" onPress={() => setRound(round + 1)}>
          Scan again
        </Button>
      </div>
      <ul className="findings">
        {findings.map((finding) => (
          <li key={finding.path} className="finding">
            <div className="finding__head">
              <h3>{finding.name}</h3>
              <span>{finding.shown}</span>
              {finding.secret ? <span className="tag">secret</span> : null}
              <Button
                className="button"
                aria-label={`Show the move of ${finding.name}`}
                onPress={() => setMoving(finding)}
              >
                Move …
              </Button>
            </div>
            <p className="story__line">
              {finding.why}; confidence {finding.confidence} %
            </p>
            <ul className="plain">
              {finding.places.map(({ file, line, column, code: text }) => (
                <li key={`${file}:${line}:${column}`}>
                  <FileLink place={`${file}:${line}`} file={file} line={line} open={open} />
                  {text === null ? null : <code className="finding__code">{text}</code>}
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
      {moving === null ? null : (
        <MoveDialog
          finding={moving}
          code={code}
          stages={stages}
          onClose={(isMoved) => {
            setMoving(null)
            if (isMoved) setRound(round + 1)
          }}
        />
      )}
    </main>
  )
}
