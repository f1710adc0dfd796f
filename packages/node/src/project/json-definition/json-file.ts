import type { Definition } from '@mappa/core/definition/definition'
import { definitionFromJson } from '@mappa/core/definition/json'
import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import { getDetail, type Problem, type ProblemCode, withLocation } from '@mappa/core/problems/problem'
import { isSettingsError, SettingsError } from '@mappa/core/problems/settings-error'
import { toPosition } from '@mappa/core/text/position'
import {
  findNodeAtLocation,
  type JSONPath,
  type Node,
  type ParseError,
  parseTree,
  printParseErrorCode,
} from 'jsonc-parser'

/** What the parser says, as text. */
const REASONS: Readonly<Record<string, string>> = {
  InvalidSymbol: 'there is a word that JSON does not have; a text needs double quotes',
  InvalidNumberFormat: 'there is an invalid number',
  PropertyNameExpected: 'a name in double quotes is expected',
  ValueExpected: 'a value is expected',
  ColonExpected: 'a colon is expected',
  CommaExpected: 'a comma is expected',
  CloseBraceExpected: 'a closing brace } is expected',
  CloseBracketExpected: 'a closing bracket ] is expected',
  EndOfFileExpected: 'the file should end here',
  InvalidCommentToken: 'JSON has no comments',
  UnexpectedEndOfString: 'the text is not closed',
  InvalidUnicode: 'there is an invalid \\u escape',
  InvalidEscapeCharacter: 'there is an invalid escape after a backslash',
  InvalidCharacter: 'there is a control character in a text',
}

/**
 * Makes a definition of a JSON file (RFC 8259), and tells where in the file each problem is.
 *
 * @param text what is in the file
 * @param file its path, as it is shown
 * @throws {SettingsError} if it is not JSON, or the definition is wrong
 */
export function readJsonDefinition(text: string, file: string): Definition {
  const errors: ParseError[] = []
  const tree = parseTree(text, errors, { disallowComments: true, allowTrailingComma: false })
  const first = errors[0]
  if (first !== undefined || tree === undefined) {
    const isEmpty = first === undefined || text.trim() === ''
    const reason = isEmpty ? 'it is empty' : explainFailure(printParseErrorCode(first.error), text, first.offset)
    const place = { file, ...toPosition(text, isEmpty ? 0 : first.offset) }
    throw new SettingsError({
      stage: null,
      problems: [definitionFileProblem('definition-not-json', { file, reason }, place)],
    })
  }
  try {
    return definitionFromJson(JSON.parse(text))
  } catch (error) {
    if (!isSettingsError(error)) throw error
    const find = (path: JSONPath) => findNodeAtLocation(tree, path)
    const problems = error.problems.map((each) => withLocation(each, { file, ...getPlace(each, text, find) }))
    throw new SettingsError({ ...error.report, problems })
  }
}

function explainFailure(code: string, text: string, offset: number): string {
  const reason = REASONS[code] ?? 'it is invalid'
  return text.slice(0, offset).trimEnd().endsWith(',') ? `${reason}, or the comma before it is one too many` : reason
}

/** The members that problems are about whose details do not name one. */
const MEMBERS: Readonly<Partial<Record<ProblemCode, string>>> = {
  'setting-kind-unknown': 'kind',
  'setting-default-wrong': 'default',
  'prefix-wrong': 'prefix',
  'stages-wrong': 'stages',
  'stage-name-wrong': 'stages',
  'stage-name-twice': 'stages',
  'directory-wrong': 'directory',
}

/** Where a problem with a setting is: at the option that it names, else at the setting. */
function getPlace(each: Problem, text: string, find: (path: JSONPath) => Node | undefined) {
  const keys = each.setting === null || each.setting === '' ? [] : each.setting.split('.')
  const member = MEMBERS[each.code] ?? getDetail(each, 'option')
  const own = typeof member === 'string' ? [['settings', ...keys, member], [member]] : []
  const paths: JSONPath[] = [...own, ['settings', ...keys]]
  const node = paths.map(find).find((found) => found !== undefined)
  if (node === undefined) return {}
  // A member is where its name is.
  return toPosition(text, node.parent?.type === 'property' ? node.parent.offset : node.offset)
}
