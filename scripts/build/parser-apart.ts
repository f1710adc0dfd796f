import { readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { transform } from 'esbuild'
import type { Plugin } from 'vite'

/** The name of the parser in `dist`. */
const FILE = 'babel-parser.cjs'

/**
 * Puts the parser for JavaScript and TypeScript into a file of its own, which is loaded when the first file is parsed: most runs parse
 * none. Functions of `mappa-settings/bundler` find it there too.
 */
export function parserApart(): Plugin {
  return {
    name: 'parser-apart',
    enforce: 'pre',
    resolveId: (id) => (id === '@babel/parser' ? join(import.meta.dirname, 'lazy-parser.ts') : null),
    async writeBundle({ dir }) {
      const file = createRequire(import.meta.url).resolve('@babel/parser')
      const { code } = await transform(readFileSync(file, 'utf8'), {
        minify: true,
        platform: 'node',
        format: 'cjs',
        target: 'node20',
        legalComments: 'none',
      })
      writeFileSync(join(dir!, FILE), code)
    },
  }
}
