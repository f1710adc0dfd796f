import type { EnvEntry } from '@mappa/core/envfile/reading/entry'
import type { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import type { Template } from '@mappa/core/template/template'
import type { Position } from 'vscode-languageserver'
import { toOffset } from './places.ts'

/** A name in an env file: the one of an entry, or one that a value refers to. */
export interface NameInText {
  readonly name: string
  readonly start: number
  readonly end: number
}

/** What stands at a place of an env file. */
export type AtPlace =
  | { readonly what: 'name' | 'reference'; readonly found: NameInText }
  | { readonly what: 'value'; readonly entry: EnvEntry }
  | null

/** Every name in an env file, in the order of the text: of entries, and of references in values. */
export function namesInText(document: ParsedEnvFile): readonly NameInText[] {
  return document.entries.flatMap((entry) => [getName(entry), ...findReferences(entry.value)])
}

function getName({ name, start, nameEnd }: EnvEntry): NameInText {
  return { name, start, end: nameEnd }
}

function findReferences(value: string | Template): readonly NameInText[] {
  if (typeof value === 'string') return []
  return value.flatMap((piece) =>
    typeof piece === 'string'
      ? []
      : [{ name: piece.name, start: piece.at, end: piece.at + piece.name.length }, ...findReferences(piece.word)],
  )
}

/** What stands at a position. */
export function atPosition(document: ParsedEnvFile, position: Position): AtPlace {
  const at = toOffset(String(document), position)
  const entry = document.entries.find(({ start, valueEnd }) => at >= start && at <= valueEnd)
  if (entry === undefined) return null
  const own = getName(entry)
  if (at <= own.end) return { what: 'name', found: own }
  const reference = findReferences(entry.value).find(({ start, end }) => at >= start && at <= end)
  if (reference !== undefined) return { what: 'reference', found: reference }
  return { what: 'value', entry }
}
