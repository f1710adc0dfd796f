import { problemFactory } from '../factory.ts'
import { error } from './entry.ts'

/** What keeps a value from being written. */
export const writingProblems = () => ({
  'file-unwritable': error(
    "{file} can't be written: {reason}.",
    'The reason comes from the operating system. Nothing was changed.',
  ),
  'file-busy': error(
    '{file} has been locked by another process for a minute. Nothing was changed.',
    'Try again. If no other process is running, remove {file}.lock.',
  ),
  'lock-in-the-way': error(
    '{file} is in the way: Mappa needs that name temporarily to lock the file beside it.',
    'Rename it or remove it. Nothing was changed.',
  ),
  'file-read-only': error(
    '{file} is write-protected. Nothing was changed.',
    'If it may be changed, allow it first: chmod u+w {file}',
  ),
  'file-hard-linked': error(
    '{file} is one of {count} names of the same file (hard links), and the others would keep the old text. Nothing was changed.',
    'Make it a file of its own: cp {file} {file}.copy, then mv {file}.copy {file}',
  ),
  'file-link-outside': error(
    '{file} is a link to {target}, outside of this repository. Nothing was changed.',
    'Change that file itself, or put a file in the place of the link.',
  ),
  'file-changed': error(
    '{file} was changed by another process in the meantime. Nothing was written.',
    'Run the command again.',
  ),
})

/** Makes a problem with writing a value. */
export const writingProblem = /* @__PURE__ */ problemFactory(writingProblems)
