import { fs, path } from '../../fs/builtin.ts'

const RELATIVE = /(?:\bfrom|\bimport)\s*\(?\s*["'](\.{1,2}\/[^"']+)["']/g
const ENDINGS = ['', '.ts', '.mts', '.js', '.mjs', '.json', '/index.ts', '/index.js']

/**
 * The files that a definition is made of: itself, and those that it imports by relative paths, and they in turn.
 *
 * @param file the absolute path of the definition
 * @returns absolute paths, the definition first
 */
export function filesOfDefinition(file: string): string[] {
  const found = new Set([file])
  for (const each of found) {
    let text: string
    try {
      text = fs.readFileSync(each, 'utf8')
    } catch {
      continue
    }
    for (const [, specifier] of text.matchAll(RELATIVE)) {
      const start = path.resolve(path.dirname(each), specifier!)
      const target = ENDINGS.map((ending) => start + ending).find((one) =>
        fs.statSync(one, { throwIfNoEntry: false })?.isFile(),
      )
      if (target !== undefined) found.add(target)
    }
  }
  return [...found]
}
