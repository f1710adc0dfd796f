/** An `error` keeps the program from starting; a `notice` does not. */
export type Severity = 'error' | 'notice'

/** One kind of problem: how bad it is, its sentence, and what to do about it. */
export interface CatalogueEntry<Details> {
  readonly severity: Severity
  readonly message: (details: Details) => string
  readonly hint: (details: Details) => string
}

/**
 * Writes an entry whose details are typed.
 *
 * @param severity how bad it is
 * @param message one sentence that says what is wrong
 * @param hint one sentence that says what to do
 */
export function entry<Details>(
  severity: Severity,
  message: (details: Details) => string,
  hint: (details: Details) => string,
): CatalogueEntry<Details> {
  return { severity, message, hint }
}
