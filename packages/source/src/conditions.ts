import { listWords } from '@mappa/core/credentials/words'

/** What a condition asks: whether the program runs in a stage, or whether it does not. */
export interface Condition {
  /** The name of the stage, as stages are usually called. */
  readonly stage: string
  /** False where the condition holds in all stages but this one. */
  readonly holds: boolean
}

/** A name with what is taken from it: `process.env.NODE_ENV`, `os.environ.get("STAGE", "")`, `Rails.env.production?`. */
const OPERAND = String.raw`[$@A-Za-z_][$\w]*(?:(?:\??\.|\?->|->|::)[$\w]+[?!]?|\[\s*["'][\w.-]+["']\s*\]|\((?:[$\w."'\s,:-]|\(\))*\))*`
const WORD = String.raw`(?:(["'${'`'}])([\w-]+)\QUOTE|:([a-z]\w*))`

const COMPARED = new RegExp(`^(?:${OPERAND})\\s*([=!]==?)\\s*${WORD.replace('\\QUOTE', '\\2')}$`)
const TURNED = new RegExp(`^${WORD.replace('\\QUOTE', '\\1')}\\s*([=!]==?)\\s*(?:${OPERAND})$`)
const EQUALS = new RegExp(
  `^(?:(?:${OPERAND})\\.(?:equals|equalsIgnoreCase|Equals)\\(\\s*"(\\w+)"\\s*\\)|"(\\w+)"\\.(?:equals|equalsIgnoreCase|Equals)\\(\\s*(?:${OPERAND})\\s*\\))$`,
)
const FLAG = new RegExp(`^(?:${OPERAND})$`)

/** Words for stages that are usual, with the names that stages have. */
const STAGE_WORDS: ReadonlyMap<string, string> = new Map([
  ['prod', 'production'],
  ['production', 'production'],
  ['live', 'production'],
  ['dev', 'development'],
  ['devel', 'development'],
  ['develop', 'development'],
  ['development', 'development'],
  ['stage', 'staging'],
  ['stg', 'staging'],
  ['staging', 'staging'],
])

/** Words in the name of a flag that say nothing of the stage. */
const FILLERS = new Set(['is', 'in', 'on', 'use', 'mode', 'env', 'environment', 'build', 'flag', 'running'])

/**
 * Reads a condition that asks for the stage.
 *
 * @returns `null` for any other condition
 * @example
 * findCondition("process.env.NODE_ENV === 'production'") // { stage: 'production', holds: true }
 * findCondition('!isDev')                                // { stage: 'development', holds: false }
 * findCondition('count > 3')                             // null
 */
export function findCondition(written: string): Condition | null {
  const text = written.trim()
  const bare = unwrap(text)
  if (bare !== null) return findCondition(bare)
  const [, negated] = /^(?:!|not\s+)\s*(.+)$/s.exec(text) ?? []
  if (negated !== undefined) {
    // `!stage === 'x'` compares what was negated, and `not x == y` does not.
    if (text.startsWith('!') && unwrap(negated) === null && !FLAG.test(negated)) return null
    const inner = findCondition(negated)
    return inner === null ? null : { ...inner, holds: !inner.holds }
  }
  return readComparison(text) ?? readFlag(text)
}

function unwrap(text: string): string | null {
  return /^\([^()]*(?:\([^()]*\)[^()]*)*\)$/s.test(text) ? text.slice(1, -1) : null
}

function readComparison(text: string): Condition | null {
  const plain = COMPARED.exec(text)
  if (plain !== null) return toCondition(plain[3] ?? plain[4]!, !plain[1]!.startsWith('!'))
  const turned = TURNED.exec(text)
  if (turned !== null) return toCondition(turned[2] ?? turned[3]!, !turned[4]!.startsWith('!'))
  const method = EQUALS.exec(text)
  return method === null ? null : toCondition(method[1] ?? method[2]!, true)
}

/** A stage that is compared with: by its own name, or by what it is usually shortened to. */
function toCondition(word: string, holds: boolean): Condition {
  return { stage: STAGE_WORDS.get(word.toLowerCase()) ?? word, holds }
}

function readFlag(text: string): Condition | null {
  if (!FLAG.test(text)) return null
  const [, name = ''] = /([A-Za-z_]\w*)(?:\(\))?[?!]?$/.exec(text) ?? []
  const words = listWords(name).filter((each) => !FILLERS.has(each))
  const stage = words.length === 1 ? STAGE_WORDS.get(words[0]!) : undefined
  // `stage ? a : b` asks whether there is one, whatever it is.
  return stage === undefined || /^stage$/i.test(name) ? null : { stage, holds: true }
}

/** A condition before a value, and how long it is with what stands between them. */
export interface ConditionBefore {
  readonly condition: Condition
  readonly length: number
  /** What stands between the condition and the value. */
  readonly sign: string
}

/**
 * Finds the condition that a text ends with.
 *
 * @param before the text before a value
 * @param sign what stands between the condition and the value
 * @param keyword what stands before the condition, if anything has to
 */
export function findLeadingCondition(before: string, sign: RegExp, keyword?: RegExp): ConditionBefore | null {
  const signed = sign.exec(before)
  if (signed === null) return null
  const text = before.slice(0, signed.index)
  for (let at = text.length - 1; at >= 0; at--) {
    const opens = keyword?.exec(text.slice(0, at).trimEnd())
    if (keyword !== undefined && opens == null) continue
    const start = opens?.index ?? at
    const condition = isBoundary(text.slice(0, start)) ? findCondition(text.slice(at)) : null
    if (condition === null) continue
    const blanks = opens == null ? text.slice(at).search(/\S/) : 0
    return { condition, length: before.length - start - blanks, sign: signed[0] }
  }
  return null
}

/** True where a value can begin behind a text. */
function isBoundary(text: string): boolean {
  if (/(?:^|[^=!<>])=\s*$|=>\s*$|->\s+$|[(,[{;]\s*$|(?:^|[^:]):\s+$|\b(?:return|yield)\s+$/.test(text)) return true
  // Behind the end of a line, unless it goes on.
  const line = /^(.*)\n[ \t]*$/s.exec(text)?.[1]?.trimEnd()
  return line !== undefined && !/[&|+\-*/<>!%^~.?=]$|\b(?:and|or|not|in|is)$/.test(line)
}
