import { useEffect, useState } from 'react'
import { Button, Dialog, Heading, Modal, ModalOverlay } from 'react-aria-components'
import type { FindingView } from '../../views/findings.ts'
import type { MoveView } from '../../views/page.ts'
import { Diff } from '../app/Diff.tsx'
import type { CodeSource } from '../source/page-source.ts'

interface MoveDialogProps {
  readonly finding: FindingView
  readonly code: CodeSource
  readonly stages: readonly string[]
  readonly onClose: (isMoved: boolean) => void
}

/** Shows what moving a finding changes, and does it when told to. */
export function MoveDialog({ finding, code, stages, onClose }: MoveDialogProps) {
  const [stage, setStage] = useState(stages[0] ?? '')
  const [plan, setPlan] = useState<MoveView | null>(null)
  const [moved, setMoved] = useState<readonly string[] | null>(null)
  const [error, setError] = useState<string | null>(null)
  const [isWriting, setIsWriting] = useState(false)
  useEffect(() => {
    let isOpen = true
    setPlan(null)
    code.planMove(finding.path, stage).then(
      (found) => isOpen && setPlan(found),
      (reason: Error) => isOpen && setError(reason.message),
    )
    return () => {
      isOpen = false
    }
  }, [code, finding, stage])
  const apply = async (): Promise<void> => {
    if (plan === null) return
    setIsWriting(true)
    try {
      setMoved(await code.applyMove(plan.id))
    } catch (reason) {
      setError((reason as Error).message)
    }
    setIsWriting(false)
  }
  const close = () => onClose(moved !== null)
  return (
    <ModalOverlay className="overlay" isOpen isDismissable onOpenChange={(isOpen) => isOpen || close()}>
      <Modal className="modal modal--wide">
        <Dialog className="dialog">
          <Heading slot="title">Move {finding.name} out of the code</Heading>
          {moved === null ? (
            <>
              <label className="select">
                <span>The value in the code is for</span>
                <select value={stage} onChange={({ target }) => setStage(target.value)}>
                  {stages.map((each) => (
                    <option key={each}>{each}</option>
                  ))}
                </select>
              </label>
              {error === null ? null : (
                <p role="alert" className="problem problem--error">
                  {error}
                </p>
              )}
              {plan === null ? (
                error === null && <p className="wait">Working out the change …</p>
              ) : (
                <Plan plan={plan} />
              )}
            </>
          ) : (
            <p role="status">Written: {moved.join(', ')}.</p>
          )}
          <div className="dialog__buttons">
            {moved === null ? (
              <Button className="button" isDisabled={plan?.canApply !== true || isWriting} onPress={() => void apply()}>
                Write all of it
              </Button>
            ) : null}
            <Button className="button button--quiet" onPress={close}>
              {moved === null ? 'Cancel' : 'Close'}
            </Button>
          </div>
        </Dialog>
      </Modal>
    </ModalOverlay>
  )
}

function Plan({ plan: { diffs, left, canApply } }: { readonly plan: MoveView }) {
  return (
    <>
      {canApply ? null : <p>Nothing can be moved here.</p>}
      {left.length === 0 ? null : (
        <>
          <h3>Not moved, to change by hand</h3>
          <ul className="plain">
            {left.map(({ place, why }) => (
              <li key={place}>
                <span className="place">{place}</span> {why}
              </li>
            ))}
          </ul>
        </>
      )}
      {diffs.map((diff) => (
        <Diff key={diff.file} diff={diff} />
      ))}
    </>
  )
}
