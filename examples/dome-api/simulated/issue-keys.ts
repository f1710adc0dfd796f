import { randomBytes } from 'node:crypto'
import { existsSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const STAGES = { development: 'drill', staging: 'drill', production: 'open' } as const

/**
 * Plays the office that hands out keys: writes a new one for each stage into `.env.<stage>.local`, which belongs
 * to this machine. A file that is there already is left alone.
 *
 * @param root the directory of the example
 * @returns the names of the files that were written
 */
export function issueKeys(root: string): string[] {
  return Object.entries(STAGES).flatMap(([stage, sort]) => {
    const file = `.env.${stage}.local`
    if (existsSync(join(root, file))) return []
    const key = `${sort}-${randomBytes(18).toString('hex')}`
    writeFileSync(join(root, file), `# Belongs to this machine. Never committed.\nDOME_KEY=${key}\n`, { mode: 0o600 })
    return [file]
  })
}

if (process.argv[1] === import.meta.filename) {
  const written = issueKeys(join(import.meta.dirname, '..'))
  console.log(written.length === 0 ? 'Every stage has its key.' : `Wrote ${written.join(', ')}.`)
}
