import { chmodSync, cpSync, existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './steps.mjs'

const PACKAGE = 'packages/mappa-cli'

/**
 * Puts the command where nothing else of the repository is to be found, as it is installed: with the packages that it declares, and
 * those that they need. In the repository it would find all that anything there needs.
 *
 * @param directory an absolute path, outside of the repository
 * @returns the absolute path of the command
 */
export function copyCommand(directory) {
  for (const path of [`${PACKAGE}/dist`, `${PACKAGE}/package.json`, ...packagesOf(PACKAGE)])
    cpSync(join(root, path), join(directory, path), { recursive: true })
  // A temporary directory is its owner's alone, and tests run the command as others too.
  chmodSync(directory, 0o755)
  return join(directory, PACKAGE, 'dist/main.js')
}

/** Where the packages lie that one needs, with those that they need. */
function packagesOf(directory, found = []) {
  const { dependencies = {} } = JSON.parse(readFileSync(join(root, directory, 'package.json'), 'utf8'))
  for (const name of Object.keys(dependencies)) {
    const place = [`${directory}/node_modules/${name}`, `node_modules/${name}`].find((each) =>
      existsSync(join(root, each)),
    )
    if (place === undefined || found.includes(place)) continue
    found.push(place)
    packagesOf(place, found)
  }
  return found
}
