const { createRequire } = process.getBuiltinModule('node:module')

/** Required, and only when something is written: commands that only read never load these. */
const require = createRequire(import.meta.url)

/** Keeps two from changing one file at the same time, also across processes. */
export function loadLocking(): typeof import('proper-lockfile') {
  return require('proper-lockfile') as typeof import('proper-lockfile')
}
