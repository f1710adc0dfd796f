/**
 * What is searched of a source map (ECMA-426): the sources without their escapes, and everything else but its mappings, which are
 * numbers and half of it.
 *
 * @param text what lies in the file
 * @returns the same text where it is no source map
 */
export function readMapText(text: string): string {
  try {
    const { mappings, sourcesContent, ...rest } = JSON.parse(text) as Record<string, unknown>
    if (typeof mappings !== 'string' || !/^[\w+/,;]*$/.test(mappings) || !Array.isArray(sourcesContent)) return text
    return [...sourcesContent, JSON.stringify(rest)].join('\n')
  } catch {
    return text
  }
}
