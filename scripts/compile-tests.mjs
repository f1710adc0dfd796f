import { readFileSync, rmSync } from 'node:fs'
import { dirname, extname, join, relative } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { build } from 'esbuild'
import { root } from './steps.mjs'

/** Where the tests go. Packages are found from there as from the tests themselves. */
const OUT = join(root, '.compiled-tests')

/** What a module knows about its own place. A test that is compiled goes on living where it was written. */
const PLACES = { dirname: '__own_directory', filename: '__own_file', url: '__own_url' }

/** Private packages are sources, which Node can't load: they become part of the tests. */
const ownPackages = {
  name: 'own-packages',
  setup: (builder) =>
    builder.onResolve({ filter: /^@mappa\// }, ({ path }) => ({ path: fileURLToPath(import.meta.resolve(path)) })),
}

const inItsPlace = {
  name: 'in-its-place',
  setup: (builder) =>
    builder.onLoad({ filter: /\.[mc]?[jt]sx?$/ }, ({ path }) => {
      const values = { dirname: dirname(path), filename: path, url: pathToFileURL(path).href }
      const names = Object.entries(PLACES).map(([key, name]) => `${name}=${JSON.stringify(values[key])}`)
      // On the first line, so that no other one moves.
      return { contents: `const ${names};${readFileSync(path, 'utf8')}`, loader: extname(path).replace(/^\.[mc]?/, '') }
    }),
}

/**
 * Compiles files of tests and what they import of the project, all at once: a process that compiles what it loads needs half a second
 * more, and tests are many processes.
 *
 * @param files paths relative to the root of the repository
 * @returns the paths of the same tests as JavaScript
 */
export async function compileTests(files) {
  rmSync(OUT, { recursive: true, force: true })
  await build({
    entryPoints: files.map((file) => join(root, file)),
    outdir: OUT,
    outbase: root,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    packages: 'external',
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: 'inline',
    sourcesContent: false,
    logLevel: 'warning',
    define: Object.fromEntries(Object.entries(PLACES).map(([key, name]) => [`import.meta.${key}`, name])),
    plugins: [ownPackages, inItsPlace],
  })
  return files.map((file) => relative(root, join(OUT, file.replace(/\.ts$/, '.mjs'))))
}
