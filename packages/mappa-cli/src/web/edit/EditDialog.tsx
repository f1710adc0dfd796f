import { listLayerFiles } from '@mappa/core/layers/order'
import { useEffect, useState } from 'react'
import {
  Button,
  Dialog,
  Form,
  Heading,
  Input,
  Label,
  Modal,
  ModalOverlay,
  Radio,
  RadioGroup,
  TextArea,
  TextField,
} from 'react-aria-components'
import type { Edit, EditPreview, EditSaved } from '../../views/page.ts'
import type { Story } from '../../views/story.ts'
import { Diff } from '../app/Diff.tsx'
import { ProblemItem } from '../app/ProblemItem.tsx'
import type { EditingSource } from '../source/page-source.ts'
import { usePreview } from './use-preview.ts'

interface EditDialogProps {
  readonly story: Story
  readonly stage: string
  readonly editing: EditingSource
  readonly onClose: () => void
}

/** The files that a value can go into: what is written, and what a person calls it. */
function listGoals({ secret }: Story, stage: string) {
  const [shared, sharedLocal, ofStage, ofStageLocal] = listLayerFiles(stage)
  const goals = [
    { file: ofStage, what: `${stage}`, stage, local: false },
    { file: ofStageLocal, what: `${stage}, on this machine`, stage, local: true },
    { file: shared, what: 'every stage', stage: null, local: false },
    { file: sharedLocal, what: 'every stage, on this machine', stage: null, local: true },
  ]
  return secret ? goals.filter(({ local }) => local) : goals
}

/** Asks for a value, shows what would change, and writes it. A secret is hidden while it is typed. */
export function EditDialog({ story, stage, editing, onClose }: EditDialogProps) {
  const goals = listGoals(story, stage)
  const [text, setText] = useState('')
  const [file, setFile] = useState(goals[0]!.file)
  const [saved, setSaved] = useState<EditSaved | null>(null)
  const [refused, setRefused] = useState<string | null>(null)
  const [isWriting, setIsWriting] = useState(false)
  const goal = goals.find((each) => each.file === file)!
  const edit: Edit = { setting: story.path, stage: goal.stage, local: goal.local, text }
  const { preview, error, again } = usePreview(editing, edit)
  useEffect(() => setRefused(null), [text, file])
  const canSave = preview !== null && preview.diff !== null && !isWriting
  const save = async (): Promise<void> => {
    if (!canSave) return
    setIsWriting(true)
    try {
      setSaved(await editing.save(edit, preview.version))
      setText('')
    } catch (error) {
      setRefused((error as Error).message)
      again()
    }
    setIsWriting(false)
  }
  return (
    <ModalOverlay
      className="overlay"
      isOpen
      onOpenChange={(isOpen) => isOpen || onClose()}
      isKeyboardDismissDisabled={false}
    >
      <Modal className="modal">
        <Dialog className="dialog">
          <Heading slot="title">Set {story.name}</Heading>
          {saved === null ? (
            <Form
              onSubmit={(event) => {
                event.preventDefault()
                void save()
              }}
            >
              <p>{story.description}</p>
              <TextField className="field" value={text} onChange={setText} autoFocus autoComplete="off">
                <Label>Value</Label>
                <ValueInput isSecret={story.secret} onPasteLines={setText} />
              </TextField>
              <RadioGroup className="field" value={file} onChange={(value) => setFile(value as typeof file)}>
                <Label>Write it into</Label>
                {goals.map((each) => (
                  <Radio key={each.file} value={each.file} className="radio">
                    <code>{each.file}</code> <span>{each.what}</span>
                  </Radio>
                ))}
              </RadioGroup>
              <Preview preview={preview} isTouched={text !== ''} />
              {(refused ?? error) === null ? null : (
                <p role="alert" className="problem problem--error">
                  {refused ?? error}
                </p>
              )}
              <div className="dialog__buttons">
                <Button type="submit" className="button" isDisabled={!canSave}>
                  Write
                </Button>
                <Button className="button button--quiet" onPress={onClose}>
                  Cancel
                </Button>
              </div>
            </Form>
          ) : (
            <Done saved={saved} name={story.name} onClose={onClose} />
          )}
        </Dialog>
      </Modal>
    </ModalOverlay>
  )
}

interface ValueInputProps {
  readonly isSecret: boolean
  /** Is given a text of several lines that was pasted. */
  readonly onPasteLines: (text: string) => void
}

/** Hides a secret. A field for passwords drops line breaks without a word, so a key of several lines gets one that keeps them. */
function ValueInput({ isSecret, onPasteLines }: ValueInputProps) {
  const [hasLines, setHasLines] = useState(false)
  if (!isSecret) return <TextArea rows={2} spellCheck="false" />
  if (hasLines) return <TextArea className="masked" rows={4} spellCheck="false" autoComplete="off" />
  return (
    <Input
      type="password"
      spellCheck="false"
      onPaste={(event) => {
        const pasted = event.clipboardData.getData('text')
        if (!/[\r\n]./.test(pasted)) return
        event.preventDefault()
        setHasLines(true)
        onPasteLines(pasted.replaceAll('\r\n', '\n'))
      }}
    />
  )
}

/** What would change, or why nothing can. */
function Preview({ preview, isTouched }: { readonly preview: EditPreview | null; readonly isTouched: boolean }) {
  if (preview === null || !isTouched) return <p className="story__line">The change of the file is shown here first.</p>
  return (
    <div aria-live="polite">
      {preview.problems.length === 0 ? null : (
        <ul className="problems">
          {preview.problems.map((each) => (
            <ProblemItem key={`${each.code} ${each.message}`} problem={each} />
          ))}
        </ul>
      )}
      {preview.diff === null ? null : <Diff diff={preview.diff} />}
      {preview.overriddenBy === null ? null : (
        <p className="problem problem--notice">
          {preview.overriddenBy} overrides it, so this value would not be in use.
        </p>
      )}
    </div>
  )
}

function Done({
  saved,
  name,
  onClose,
}: {
  readonly saved: EditSaved
  readonly name: string
  readonly onClose: () => void
}) {
  const { changed, notes, place } = saved
  return (
    <>
      <p role="status">
        {changed ? `${name} is set in ${place}.` : `${name} already has this value, in ${place}.`} {notes.join(' ')}
      </p>
      <div className="dialog__buttons">
        <Button className="button" autoFocus onPress={onClose}>
          Close
        </Button>
      </div>
    </>
  )
}
