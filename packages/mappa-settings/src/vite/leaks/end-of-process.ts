import { writeSync } from 'node:fs'

/** What the last look at the output of a build has found. */
export interface LastLook {
  /** A text for a person; an empty one where there is nothing new. */
  readonly text: string
  readonly isFailed: boolean
}

/** Kept beside the modules, so that copies of the library look once. */
const KEY = Symbol.for('mappa-settings/end-of-process@1')

interface Holder {
  [KEY]?: Map<string, () => LastLook>
}

/**
 * Looks once more at the output of a build when its process ends. A framework renders pages when the build of its bundler is over, and no
 * hook comes behind that; the end of the process does. What is found there lets the process fail.
 *
 * @param output what was built: only the last look that was asked for is taken for it
 * @param look must be synchronous, as everything is while a process ends
 */
export function lookAtEnd(output: string, look: () => LastLook): void {
  const holder = globalThis as Holder
  if (holder[KEY] === undefined) {
    const looks = new Map<string, () => LastLook>()
    holder[KEY] = looks
    process.once('exit', () => {
      for (const each of looks.values()) tell(each)
    })
  }
  holder[KEY].set(output, look)
}

/** Output that a logger buffers would be lost now. */
function tell(look: () => LastLook): void {
  const { text, isFailed } = look()
  // First, since nobody may read what is written any more.
  if (isFailed) process.exitCode = 1
  if (text !== '') writeSync(2, `${text}\n`)
}
