import { spawnSync } from 'node:child_process'
import { closeSync, constants, mkdtempSync, openSync, rmSync } from 'node:fs'
import { Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { findProgram } from '@mappa/node/git/programs'

/** A pipe: what is written to the file descriptor comes out of the stream. */
export interface Pipe {
  readonly read: Readable
  /** To be closed by {@link Pipe.handOver} once a process has it. */
  readonly write: number
  /** Closes the end to write to in this process, so that the stream ends with the last process that has it. */
  readonly handOver: () => void
}

/**
 * Makes a pipe as shells do. Node gives its children sockets instead, which scripts can't open as `/dev/stderr`, and which end a command
 * in another way when their reader goes away.
 *
 * @returns `null` where the system has no such thing, or no place for it
 */
export function makePipe(): Pipe | null {
  let directory: string | null = null
  try {
    // Only its owner can enter the directory, and it is gone again before anything is written.
    directory = mkdtempSync(join(tmpdir(), 'mappa-pipe-'))
    const path = join(directory, 'pipe')
    const program = findProgram('mkfifo', process.cwd())
    if (program === null || spawnSync(program, ['-m', '600', path], { stdio: 'ignore' }).status !== 0) return null
    const fd = openSync(path, constants.O_RDONLY | constants.O_NONBLOCK)
    const write = openSync(path, constants.O_WRONLY)
    return { read: new Socket({ fd, readable: true, writable: false }), write, handOver: () => closeSync(write) }
  } catch {
    return null
  } finally {
    if (directory !== null) rmSync(directory, { recursive: true, force: true })
  }
}
