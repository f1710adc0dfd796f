import type { PageSource } from './page-source.ts'

/**
 * The same source, but a write is done only when what it has changed was read again: whoever is told "it is set" sees
 * it set.
 *
 * @param read reads the state, and does not throw
 */
export function readingAfterWrites(source: PageSource, read: () => Promise<void>): PageSource {
  const { editing, code } = source
  const afterwards = async <Result>(write: Promise<Result>): Promise<Result> => {
    const result = await write
    await read()
    return result
  }
  return {
    ...source,
    editing: editing && { ...editing, save: (edit, version) => afterwards(editing.save(edit, version)) },
    code: code && { ...code, applyMove: (id) => afterwards(code.applyMove(id)) },
  }
}
