/**
 * Modules of Node, taken without an import statement: importing `node:fs` into an ES module loads streams and
 * more along with it, which every program that loads its settings would pay for at each start.
 */
if (typeof process === 'undefined' || typeof process.getBuiltinModule !== 'function') {
  throw new Error('mappa-settings/node needs Node 20.19 or later, or another runtime with process.getBuiltinModule.')
}

export const fs = process.getBuiltinModule('node:fs')
export const path = process.getBuiltinModule('node:path')
export const util = process.getBuiltinModule('node:util')
