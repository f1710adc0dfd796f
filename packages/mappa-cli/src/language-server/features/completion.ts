import type { Declaration } from '@mappa/core/definition/definition'
import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { displayValue } from '@mappa/core/secret/display'
import type { CompletionItem, Position } from 'vscode-languageserver'
import { code } from '../../views/markdown-text.ts'
import type { EditorProject } from '../editor-project.ts'
import { getDeclaration } from '../setting-at.ts'
import { getDescription } from './hover.ts'

/** Kinds of items, as the protocol numbers them. */
const PROPERTY = 10
const VALUE = 12
const VARIABLE = 6

/** What is typed on a line, up to the cursor. */
const NAME = /^\s*(?:export\s+)?([A-Za-z_][A-Za-z0-9_]*)?$/
const REFERENCE = /\$\{?([A-Za-z_][A-Za-z0-9_]*)?$/
const ENTRY = /^\s*(?:export\s+)?([A-Za-z_][A-Za-z0-9_]*)\s*=\s*(["']?)(.*)$/

/** What can be typed at a position of a layer file: names that are not in it, words of a value, names that a value refers to. */
export function findCompletions(
  project: EditorProject,
  file: string,
  text: string,
  position: Position,
): CompletionItem[] {
  const line = (text.split('\n')[position.line] ?? '').slice(0, position.character)
  const name = NAME.exec(line)
  if (name !== null) return suggestNames(project, file, position, name[1] ?? '', text)
  const entry = ENTRY.exec(line)
  if (entry === null) return []
  const [, own = '', quote = '', typed = ''] = entry
  const reference = quote === "'" ? null : REFERENCE.exec(typed)
  if (reference !== null) return references(project, own, position, reference[1] ?? '')
  const declaration = getDeclaration(project, own)
  return declaration === undefined ? [] : suggestValues(declaration, position, typed)
}

/** The settings that are not in the file, those that are missing in its stage first. A secret is offered only where it may stand. */
function suggestNames(
  project: EditorProject,
  file: string,
  position: Position,
  typed: string,
  text: string,
): CompletionItem[] {
  const present = new Set(project.document(file).entries.map(({ name }) => name))
  // What is being typed may read as an entry by itself.
  present.delete(typed)
  const missing = findMissing(project, file)
  const hasValue = text.split('\n')[position.line]?.slice(position.character).trimStart().startsWith('=') === true
  return project.definition.settings
    .filter(({ name, secret }) => !present.has(name) && (!secret || isLocalFile(file)))
    .map((declaration): CompletionItem => {
      const { name, path, kind, options } = declaration
      const isMissing = missing.has(path)
      return {
        label: name,
        kind: PROPERTY,
        detail: `${kind.describe(options)}${isMissing ? ', missing' : ''}`,
        sortText: `${isMissing ? 0 : 1} ${name}`,
        textEdit: { range: before(position, typed.length), newText: hasValue ? name : `${name}=` },
        data: { setting: path, root: project.root },
      }
    })
}

/** Adds what takes longer to find out, once an item is chosen. */
export function resolved(project: EditorProject, item: CompletionItem): CompletionItem {
  const { setting } = (item.data ?? {}) as { setting?: string }
  if (setting === undefined) return item
  const example = getExample(project, setting)
  const value = [getDescription(project, setting), ...(example === null ? [] : [`Example: ${code(example)}`])].join(
    '\n\n',
  )
  return { ...item, documentation: { kind: 'markdown', value } }
}

/** A line as it could stand in the file: with the first of a few words, the default, or the value of another stage. A secret has none. */
function getExample({ definition, stages }: EditorProject, path: string): string | null {
  const declaration = definition.settings.find((each) => each.path === path)
  if (declaration === undefined || declaration.secret) return null
  const { name, kind, options, default: fallback } = declaration
  const ofStages = stages.flatMap(({ settings }) => {
    const found = settings.find((each) => each.declaration.path === path)
    return found?.valid === true && !found.masked && found.text !== undefined ? [found.text] : []
  })
  const [word] = [
    ...(kind.values?.(options) ?? []),
    ...(fallback === undefined ? [] : [kind.toText(fallback, options)]),
    ...ofStages,
  ]
  return word === undefined ? null : `${name}=${displayValue(word, { secret: false, bare: true })}`
}

function findMissing(project: EditorProject, file: string): ReadonlySet<string> {
  const own = project.listStages(file)
  const problems = project.stages.filter(({ stage }) => own.includes(stage)).flatMap((each) => each.problems)
  return new Set(problems.flatMap(({ code, setting }) => (code === 'missing' && setting !== null ? [setting] : [])))
}

/** The words of a value: those of a choice, true and false, the default. */
function suggestValues(
  { kind, options, default: fallback }: Declaration,
  position: Position,
  typed: string,
): CompletionItem[] {
  const words = [...(kind.values?.(options) ?? (kind.isSwitch === true ? ['true', 'false'] : []))]
  const byDefault = fallback === undefined ? null : kind.toText(fallback, options)
  if (byDefault !== null && !words.includes(byDefault)) words.push(byDefault)
  return words.map((word, index) => ({
    label: word,
    kind: VALUE,
    detail: word === byDefault ? 'the default' : kind.describe(options),
    sortText: String(index).padStart(4, '0'),
    textEdit: { range: before(position, typed.length), newText: word },
  }))
}

/** The names that a value can refer to: settings, and whatever the layers set. A value can't refer to a secret without being one. */
function references(project: EditorProject, own: string, position: Position, typed: string): CompletionItem[] {
  const names = new Map<string, string>()
  for (const file of project.layers)
    for (const { name } of project.document(file).entries) names.set(name, `set in ${file}`)
  for (const { name, secret, description } of project.definition.settings)
    if (secret) names.delete(name)
    else names.set(name, description)
  names.delete(own)
  return [...names].map(([name, what]) => ({
    label: name,
    kind: VARIABLE,
    detail: what,
    textEdit: { range: before(position, typed.length), newText: name },
  }))
}

function before({ line, character }: Position, length: number) {
  return { start: { line, character: character - length }, end: { line, character } }
}
