/** A number in exact decimal digits: `digits` divided by ten to the power of `scale`. */
export interface Decimal {
  readonly digits: bigint
  /** From 0. */
  readonly scale: number
}

/** Reads decimal digits, with a fraction and an exponent if need be; exactly, where binary fractions would round. */
export function parseDecimal(text: string): Decimal {
  const [, whole = '0', fraction = '', exponent = '0'] = /^(-?\d+)(?:\.(\d+))?(?:[eE]([+-]?\d+))?$/.exec(text)!
  const scale = fraction.length - Number(exponent)
  const digits = BigInt(whole + fraction)
  return scale >= 0 ? { digits, scale } : { digits: digits * 10n ** BigInt(-scale), scale: 0 }
}

/**
 * A decimal times a whole number.
 *
 * @returns the product as the closest number, and whether it is whole
 */
export function multiply({ digits, scale }: Decimal, by: bigint): { value: number; isWhole: boolean } {
  const power = 10n ** BigInt(scale)
  const product = digits * by
  const isWhole = product % power === 0n
  // By way of its digits: dividing two large numbers would round twice.
  return { value: isWhole ? Number(product / power) : Number(getText({ digits: product, scale })), isWhole }
}

/** The sum of two decimals. */
export function addDecimal(a: Decimal, b: Decimal): Decimal {
  const scale = Math.max(a.scale, b.scale)
  return { digits: rescale(a, scale) + rescale(b, scale), scale }
}

/** A decimal in digits, without an exponent and without zeros at its end. */
export function getText({ digits, scale }: Decimal): string {
  const sign = digits < 0n ? '-' : ''
  const all = String(digits < 0n ? -digits : digits).padStart(scale + 1, '0')
  const fraction = scale === 0 ? '' : all.slice(-scale).replace(/0+$/, '')
  return `${sign}${scale === 0 ? all : all.slice(0, -scale)}${fraction === '' ? '' : `.${fraction}`}`
}

/**
 * True for a multiple, by the digits that both numbers are written with: 0.3 is 3 times 0.1.
 *
 * @example
 * ```ts
 * isMultiple(0.3, 0.1)       // true
 * isMultiple(1000000001, 2)  // false
 * ```
 */
export function isMultiple(value: number, of: number): boolean {
  if (Number.isSafeInteger(value) && Number.isSafeInteger(of)) return value % of === 0
  const [a, b] = [parseDecimal(String(value)), parseDecimal(String(of))]
  const scale = Math.max(a.scale, b.scale)
  return rescale(a, scale) % rescale(b, scale) === 0n
}

function rescale({ digits, scale }: Decimal, to: number): bigint {
  return digits * 10n ** BigInt(to - scale)
}
