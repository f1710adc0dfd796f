import { type DragEvent, useEffect, useState } from 'react'
import { Button, FileTrigger, Label, TextArea, TextField } from 'react-aria-components'
import { App } from '../../../packages/mappa-cli/src/web/app/App.tsx'
import { DroppedFiles } from './dropped-files.ts'

const files = new DroppedFiles()

/** Takes env files and a definition, and shows the stages. Nothing leaves the browser. */
export function DropPage() {
  const [, setRound] = useState(0)
  const [text, setText] = useState('')
  const [ignored, setIgnored] = useState<readonly string[]>([])
  const again = () => setRound((round) => round + 1)
  useEffect(() => files.source.watch(again, () => {}), [])
  const define = (given: string): void => {
    setText(given)
    if (given.trim() !== '') files.define(given)
  }
  const take = async (given: Iterable<File>): Promise<void> => {
    const left: string[] = []
    for (const file of given) {
      if (file.name === 'settings.definition.json') define(await file.text())
      else if (/^\.env(\.[a-z0-9-]+){0,2}$/.test(file.name)) files.add(file.name, await file.text())
      else left.push(file.name)
    }
    setIgnored(left)
  }
  const drop = (event: DragEvent): void => {
    event.preventDefault()
    void take(event.dataTransfer.files)
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: files can also be chosen by the button
    <div className="drop" onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <section className="drop__in" aria-label="Files and definition">
        <h1>Stages in a table</h1>
        <p>
          Drop <code>.env</code> files here, and paste the definition. Nothing leaves the browser: this page can connect
          to nothing.
        </p>
        <FileTrigger allowsMultiple onSelect={(chosen) => void take(chosen ?? [])}>
          <Button className="button">Choose files</Button>
        </FileTrigger>
        <ul className="drop__files" aria-label="Files">
          {files.names.map((name) => (
            <li key={name}>
              <code>{name}</code>{' '}
              <Button className="link" aria-label={`Remove ${name}`} onPress={() => files.remove(name)}>
                remove
              </Button>
            </li>
          ))}
        </ul>
        {ignored.length === 0 ? null : (
          <p role="alert" className="problem problem--notice">
            Not an env file, so it was left out: {ignored.join(', ')}
          </p>
        )}
        <TextField className="field" value={text} onChange={define}>
          <Label>settings.definition.json</Label>
          <TextArea rows={5} spellCheck="false" />
        </TextField>
        {files.failures.length === 0 ? null : (
          <ul className="problems" role="alert">
            {files.failures.map((sentence) => (
              <li key={sentence} className="problem problem--error">
                {sentence}
              </li>
            ))}
          </ul>
        )}
      </section>
      {files.hasDefinition ? <App source={files.source} /> : null}
    </div>
  )
}
