import { agreements } from './agreements.ts'
import { attempts } from './attempts.ts'
import { borders } from './borders.ts'
import { canaries } from './canaries.ts'
import { definitions } from './definitions.ts'
import { disks } from './disks.ts'
import { edits } from './edits.ts'
import { fills } from './fills.ts'
import { harmless } from './harmless.ts'
import type { LongRun } from './long-run.ts'
import { moves } from './moves.ts'
import { reloads } from './reloads.ts'
import { texts } from './texts.ts'
import { killedWriters, manyWriters } from './writers.ts'

/** Every long run. */
export const LONG_RUNS: readonly LongRun[] = [
  texts,
  edits,
  fills,
  definitions,
  agreements,
  killedWriters,
  manyWriters,
  disks,
  attempts,
  reloads,
  moves,
  canaries,
  borders,
  harmless,
]
