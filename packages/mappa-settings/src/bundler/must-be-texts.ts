/**
 * Refuses an option that must be a list of texts: one text alone would be taken for a list of its letters.
 *
 * @throws {TypeError} naming the option
 */
export function mustBeTexts(value: unknown, option: string, where: string): void {
  if (value === undefined || (Array.isArray(value) && value.every((each) => typeof each === 'string'))) return
  throw new TypeError(`The option ${option} of ${where} must be a list of texts, such as ['process.env'].`)
}
