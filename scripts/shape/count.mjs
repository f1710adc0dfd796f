import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import ts from 'typescript'
import { root, sourceDirectories } from '../steps.mjs'
import { VERBS } from './verbs.mjs'

/** Lines of a function, from its first to its last. */
const LONGEST_FUNCTION = 60
/** Parameters of a function; an object of options is one. */
const MOST_PARAMETERS = 4
/** Lines of a file, styles included. */
const LONGEST_FILE = 300

/** What is counted, by the names in `limits.json`. */
export const COUNTS = {
  withoutVerb: 'names of functions that begin with neither a verb nor a predicate',
  prepositions: 'names of functions that end in a preposition',
  longFunctions: `functions of more than ${LONGEST_FUNCTION} lines`,
  manyParameters: `functions of more than ${MOST_PARAMETERS} parameters`,
  booleanParameters: 'boolean parameters of exported functions',
  longFiles: `files of more than ${LONGEST_FILE} lines`,
}

const PREDICATE =
  /^(?:is|are|has|have|can|may|must|should|needs?|does|was|will|allows?|accepts?|contains?|equals?|matches|exists|knows|uses|belongs|includes|throws|tests|reads|runs|ends|begins|starts|opens|holds|looks|stands|takes|keeps|declares|asks|comes|covers|differs|fits|follows|gives|leads|lists|means|names|says|tells|works|heeds|tries|stays|overrides|refers|reaches|counts|agree)(?=[A-Z]|$)/
const PREPOSITION =
  /(?:Of|In|At|For|From|To|By|With|On|As|Below|Above|Beside|Into|Behind|Within|Without|Before|After|Through|Under|Over|About|Around|Between|Beyond|Against)$/
/** Components are named by what they draw, and methods of plugins by what calls them. */
const GIVEN = /^(?:[A-Z]\w*|handler|config|configResolved|onLog|valueOf)$/

function hasVerb(name) {
  const own = name.replace(/^[#_]+/, '')
  return GIVEN.test(own) || PREDICATE.test(own) || VERBS.has(/^[a-z]+/.exec(own)?.[0])
}

/** What an overload says stands once more where the body is. */
const isFunction = (node) =>
  (ts.isFunctionDeclaration(node) && node.body !== undefined) ||
  ts.isMethodDeclaration(node) ||
  ts.isArrowFunction(node) ||
  ts.isFunctionExpression(node)

const isNamed = (node) => node !== undefined && (ts.isIdentifier(node) || ts.isPrivateIdentifier(node))

/** The name that a function is called by; `null` for one that is only passed on. */
function nameOf(node) {
  if (isNamed(node.name)) return node.name.text
  return ts.isVariableDeclaration(node.parent) && isNamed(node.parent.name) ? node.parent.name.text : null
}

function isExported(node) {
  const statement = ts.isVariableDeclaration(node.parent) ? node.parent.parent.parent : node
  const modifiers = ts.canHaveModifiers(statement) ? ts.getModifiers(statement) : undefined
  return modifiers?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword) ?? false
}

const BOOLEANS = new Set([ts.SyntaxKind.BooleanKeyword, ts.SyntaxKind.TrueKeyword, ts.SyntaxKind.FalseKeyword])
const isBoolean = ({ type, initializer }) => BOOLEANS.has(type?.kind) || BOOLEANS.has(initializer?.kind)

/** True for a function that only gives an object: a table is as long as what is in it. */
function isTable({ body }) {
  return body !== undefined && ts.isParenthesizedExpression(body) && ts.isObjectLiteralExpression(body.expression)
}

/** What is to be counted of a function. */
function* faultsOf(node, name, lines) {
  if (name !== null && !hasVerb(name)) yield 'withoutVerb'
  if (name !== null && PREPOSITION.test(name) && !GIVEN.test(name)) yield 'prepositions'
  if (lines > LONGEST_FUNCTION && !isTable(node)) yield 'longFunctions'
  if (node.parameters.length > MOST_PARAMETERS) yield 'manyParameters'
  if (isExported(node)) yield* node.parameters.filter(isBoolean).map(() => 'booleanParameters')
}

/** All functions of a file, and what is to be counted of each. */
function* functionsIn(file, text) {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true)
  const nodes = [source]
  for (const node of nodes) {
    ts.forEachChild(node, (child) => void nodes.push(child))
    if (!isFunction(node)) continue
    const lineAt = (position) => source.getLineAndCharacterOfPosition(position).line
    const from = lineAt(node.getStart())
    const name = nameOf(node)
    yield { name, line: from + 1, faults: [...faultsOf(node, name, lineAt(node.getEnd()) - from + 1)] }
  }
}

/** The directory that a file is counted in: the first one below `src`, or `src` itself. */
const directoryOf = (file) => /^packages\/[^/]+\/src(?:\/[^/]+(?=\/))?/.exec(file)[0]

/**
 * Counts names and shapes of all sources.
 *
 * @returns for each directory the number of named functions and of each kind of fault, and where the faults are
 */
export function countShapes() {
  const directories = {}
  const faults = []
  for (const file of sourceDirectories.flatMap(filesIn)) {
    const text = readFileSync(join(root, file), 'utf8')
    const counts = (directories[directoryOf(file)] ??= { functions: 0, ...mapValues(COUNTS, () => 0) })
    const add = (kind, line, name) => {
      counts[kind] += 1
      faults.push({ kind, file, line, name })
    }
    if (text.split('\n').length > LONGEST_FILE + 1) add('longFiles', 1, null)
    if (file.endsWith('.css')) continue
    for (const { name, line, faults: kinds } of functionsIn(file, text)) {
      if (name !== null) counts.functions += 1
      for (const kind of kinds) add(kind, line, name)
    }
  }
  return { directories, faults }
}

const filesIn = (directory) =>
  readdirSync(join(root, directory), { recursive: true })
    .filter((file) => /\.(?:tsx?|css)$/.test(file))
    .map((file) => `${directory}/${file}`)
    .sort()

export const mapValues = (object, change) =>
  Object.fromEntries(Object.entries(object).map(([key, value]) => [key, change(value, key)]))
