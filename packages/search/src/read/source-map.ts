/** What of a source map is searched in different ways. */
export interface MapTexts {
  /** The sources without their escapes, and everything else but the mappings. */
  readonly text: string
  /** The numbers of the mappings as they are written: half of most maps, and no code. */
  readonly mappings: string
}

/**
 * What is searched of a source map (ECMA-426).
 *
 * @param text what lies in the file
 * @returns `null` where it is no source map
 */
export function readMapTexts(text: string): MapTexts | null {
  try {
    const { mappings, sourcesContent, ...rest } = JSON.parse(text) as Record<string, unknown>
    if (typeof mappings !== 'string' || !/^[\w+/,;]*$/.test(mappings) || !Array.isArray(sourcesContent)) return null
    return { text: [...sourcesContent, JSON.stringify(rest)].join('\n'), mappings }
  } catch {
    return null
  }
}
