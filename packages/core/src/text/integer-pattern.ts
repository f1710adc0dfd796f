/**
 * A regular expression for the whole numbers of a range, written without leading zeros.
 *
 * @param least the smallest; a safe integer
 * @param most the largest; a safe integer, not below the smallest
 * @returns its source, without anchors
 * @example
 * ```ts
 * integerPattern(1, 65535) // '(?!(?:0)$)(?:0|[1-9][0-9]{0,3}|[1-5][0-9]{4}|...)'
 * ```
 */
export function integerPattern(least: number, most: number): string {
  const parts: string[] = []
  if (most >= 0) parts.push(matchRange(Math.max(0, least), most))
  if (least < 0) parts.push(`-${matchRange(Math.max(1, -most), -least)}`)
  // -0 is 0.
  if (least <= 0 && most >= 0) parts.push('-0')
  return `(?:${parts.join('|')})`
}

function matchRange(least: number, most: number): string {
  const upper = `(?:${toUpperPattern(String(most))})`
  return least === 0 ? upper : `(?!(?:${toUpperPattern(String(least - 1))})(?![0-9]))${upper}`
}

/** The numbers from 0 to one that is given by its digits: the shorter ones, then those that differ first at each place. */
function toUpperPattern(digits: string): string {
  const shorter = digits.length > 1 ? ['0', `[1-9][0-9]{0,${digits.length - 2}}`] : []
  const ways = [...digits].flatMap((digit, place) => {
    const least = place === 0 && digits.length > 1 ? 1 : 0
    if (Number(digit) <= least && !(Number(digit) > least)) return []
    const rest = digits.length - place - 1
    return [`${digits.slice(0, place)}[${least}-${Number(digit) - 1}]${rest === 0 ? '' : `[0-9]{${rest}}`}`]
  })
  return [...shorter, ...ways, digits].join('|')
}
