import { Button, Dialog, Heading, Input, Label, Modal, ModalOverlay, TextField } from 'react-aria-components'

interface LinkProps {
  readonly link: string
  readonly onClose: () => void
}

/** A link for another window or another browser. */
export function Link({ link, onClose }: LinkProps) {
  return (
    <ModalOverlay className="overlay" isOpen isDismissable onOpenChange={(isOpen) => isOpen || onClose()}>
      <Modal className="modal">
        <Dialog className="dialog">
          <Heading slot="title">A link for another window</Heading>
          <p>Open it on this machine within ten minutes. It works once.</p>
          <TextField className="field" value={link} isReadOnly autoFocus>
            <Label>Link</Label>
            <Input onFocus={(event) => event.currentTarget.select()} />
          </TextField>
          <div className="dialog__buttons">
            <Button className="button" onPress={() => void navigator.clipboard.writeText(link).then(onClose)}>
              Copy
            </Button>
            <Button className="button button--quiet" onPress={onClose}>
              Close
            </Button>
          </div>
        </Dialog>
      </Modal>
    </ModalOverlay>
  )
}
