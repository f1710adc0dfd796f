/** How relative paths end: as the files do, as their compiled form does, or not at all. */
export type EndingStyle = 'source' | 'compiled' | 'none'

/** The way in which some relative paths end. */
export function chooseEndingStyle(sources: readonly string[]): EndingStyle {
  if (sources.some((each) => /\.[cm]?tsx?$/.test(each))) return 'source'
  return sources.some((each) => /\.[cm]?jsx?$/.test(each)) ? 'compiled' : 'none'
}

/** A relative path to a source file, written in one of the ways. */
export function withEnding(relative: string, style: EndingStyle): string {
  if (style === 'source') return relative
  if (style === 'compiled') return relative.replace(/\.([cm]?)tsx?$/, '.$1js')
  return relative.replace(/\.[jt]sx?$/, '')
}
