import { randomBytes } from 'node:crypto'
import { existsSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/**
 * Writes a made-up key for each stage into `.env.<stage>.local`, which belongs to this machine. A file that is there already
 * is left alone.
 *
 * @param root the directory of the example
 */
export function issueKeys(root: string): void {
  for (const stage of ['development', 'staging', 'production']) {
    const file = join(root, `.env.${stage}.local`)
    const key = `slip-${randomBytes(18).toString('hex')}`
    if (!existsSync(file))
      writeFileSync(file, `# Belongs to this machine. Never committed.\nDESK_KEY=${key}\n`, { mode: 0o600 })
  }
}

if (process.argv[1] === import.meta.filename) issueKeys(join(import.meta.dirname, '..'))
