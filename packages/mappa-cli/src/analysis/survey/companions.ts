import { listWords } from '@mappa/core/credentials/words'
import type { SourceLiteral } from '@mappa/source/source'
import { classify } from './classify.ts'

/** Last words of the name of who logs in, and of what is opened then. */
const BESIDE = /^(.*?)(?:(?<user>user(?: ?name)?|login)|(?<database>database(?: name)?|db(?: ?name)?))$/
/** Last words of the name of a password. */
const PASSWORD = /^(.*?)(?:password|passwd|passphrase|pass|pwd|pswd)$/
/** Farther apart than this, in characters, two values do not belong together. */
const NEAR = 600
/** A name is no longer than this, in characters. */
const LONGEST_NAME = 64

/** True for a text that may name a user or a database beside a password. */
export function mayBeCompanion(value: string): boolean {
  return value.length > 0 && value.length <= LONGEST_NAME && /^[^\s<>{}$*:/=]+$/.test(value)
}

/** True for a file in which users or databases may stand beside passwords. */
export function mayHaveCompanions(text: string): boolean {
  return (
    /(?:user|login|database|db|name)(?:_?name)?["'\])]*\s*(?:=>|:=|[:=])/i.test(text) && /pass|pwd|pswd/i.test(text)
  )
}

/**
 * Marks the user and the database that stand beside a password: `{ user: 'desk', password: '...', database: 'nights' }`. They say nothing
 * by themselves, and go where the password goes.
 *
 * @param literals those of one file
 */
export function withCompanions(literals: readonly SourceLiteral[]): readonly SourceLiteral[] {
  const passwords = literals.flatMap((each) => {
    const [, around] = each.form === 'text' ? (PASSWORD.exec(chooseLastingName(each)) ?? []) : []
    return around !== undefined && classify(each)?.secret === true ? [{ ...each, around }] : []
  })
  if (passwords.length === 0) return literals
  return literals.map((each) => {
    if (each.form !== 'text' || !mayBeCompanion(each.value)) return each
    const read = listReadings(each).find(({ around }) => passwords.some((password) => isNear(password, each, around)))
    return read === undefined ? each : { ...each, beside: read.beside }
  })
}

/** What a value may be by its names, and what they say is around it. */
function listReadings(
  literal: SourceLiteral,
): readonly { readonly around: string; readonly beside: 'user' | 'database' }[] {
  const name = chooseLastingName(literal)
  const [, around, user] = BESIDE.exec(name) ?? []
  const [, database] = /^(.*\b(?:db|databases?)\b.* |(?:db|databases?) )name$/.exec(name) ?? []
  return [
    ...(around === undefined
      ? []
      : [{ around, beside: user === undefined ? ('database' as const) : ('user' as const) }]),
    // `{ databases: { nights: { name, password } } }`, DB_NAME
    ...(database === undefined ? [] : [{ around: database, beside: 'database' as const }]),
  ]
}

function isNear(
  password: SourceLiteral & { readonly around: string },
  { start, callee }: SourceLiteral,
  around: string,
): boolean {
  if (password.around !== around || Math.abs(password.start - start) > NEAR) return false
  // Without a name around them, they are arguments of one call.
  return around !== '' || (callee !== null && password.callee === callee)
}

/** What a companion belongs to: two users that are called the same are not the same user. */
export function nameOwner(literal: SourceLiteral): string {
  return listReadings(literal)[0]?.around ?? ''
}

/** The words of all names of a value, the innermost last; of the variable alone, where it stands in for one. */
function chooseLastingName({ names, variable }: SourceLiteral): string {
  return (variable === null ? names : [variable]).flatMap(listWords).join(' ')
}
