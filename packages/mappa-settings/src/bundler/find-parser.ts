import { createRequire } from 'node:module'
import { join } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { findCommandPart } from '@mappa/node/project/command-part'
import type { BabelParse } from '@mappa/source/javascript/parse-with'

/** Parsers by the directory of the project that has them. */
const found = new Map<string, BabelParse>()

/**
 * The parser that a project has for JavaScript and TypeScript: that of `mappa-cli`, or that of Babel. It is more than twice as large as all that a
 * program loads of this package, and only builds need it.
 *
 * @param root the directory of the project
 * @throws {SettingsError} where the project has neither
 */
export function findParser(root: string): BabelParse {
  let parse = found.get(root)
  if (parse === undefined) {
    parse = findProjectParser(root)
    found.set(root, parse)
  }
  return parse
}

function findProjectParser(root: string): BabelParse {
  const project = join(root, 'package.json')
  const file =
    findCommandPart(root, 'parser') ??
    findPackage(['@babel/parser'], project) ??
    findPackage(['@babel/core', '@babel/parser'], project)
  if (file !== null) return (createRequire(project)(file) as typeof import('@babel/parser')).parse
  throw new SettingsError({ stage: null, root, problems: [pageProblem('reads-need-parser', {})] })
}

/**
 * The file that a package is loaded from; `null` if it is not installed.
 *
 * @param way packages, each to be found from the one before it
 */
function findPackage(way: readonly string[], from: string): string | null {
  try {
    return way.reduce((file, name) => createRequire(file).resolve(name), from)
  } catch {
    return null
  }
}
