/** False where half of a surrogate pair stands alone: it would not come through UTF-8. */
export function isWellFormed(text: string): boolean {
  return !/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.test(text)
}
