/**
 * What it means that something was not read, or not understood. `failed` is what was asked for and could not be looked at: whoever says
 * that nothing was found would say too much. `opaque` was looked at byte by byte, and nobody here can open it.
 */
export type SkipClass = 'failed' | 'opaque'

/** The one table of reasons: their classes, their words, and what such things are called together. */
const REASONS = {
  'git-failed': ['failed', 'git could not read it', 'what git could not read'],
  missing: ['failed', 'it is not in this clone', 'what is not in this clone'],
  unreadable: ['failed', "it can't be read", "what can't be read"],
  damaged: ['failed', 'it is damaged', 'damaged files'],
  'too-large': ['failed', 'it has more than {limit}', 'files that are too large'],
  'too-deep': ['failed', 'it is packed in more than four layers', 'deep archives'],
  'encrypted-named': ['failed', 'it is encrypted', 'encrypted files'],
  encrypted: ['opaque', 'it is encrypted', 'encrypted files'],
  'no-file': ['opaque', 'it is no regular file', 'what is no regular file'],
  submodule: ['opaque', 'it is a repository of its own', 'submodules'],
  pointer: ['opaque', 'it points to content that is kept elsewhere', 'pointers to content kept elsewhere'],
  generated: [
    'opaque',
    'it is larger than sources that people write',
    'large sources, in which no new credentials were looked for',
  ],
  format: ['opaque', 'nobody here can open its format', 'binary files'],
} as const satisfies Readonly<Record<string, readonly [SkipClass, string, string]>>

/** Why something was not read, or not understood. */
export type SkipReason = keyof typeof REASONS

/** Larger files are not searched for secrets, in bytes: 256 MiB. */
export const MAX_SEARCHED_BYTES = 256 * 1024 * 1024

/** What a reason means. */
export function classifySkip(reason: SkipReason): SkipClass {
  return REASONS[reason][0]
}

/**
 * A reason as the end of a sentence.
 *
 * @param most the size that was too large, in bytes; what is searched for secrets where it is left out
 */
export function describeSkip(reason: SkipReason, most: number = MAX_SEARCHED_BYTES): string {
  return REASONS[reason][1].replace('{limit}', `${most / 1024 / 1024} MiB`)
}

/** What things with the same reason are called together. */
export function nameSkipped(reason: SkipReason): string {
  return REASONS[reason][2]
}
