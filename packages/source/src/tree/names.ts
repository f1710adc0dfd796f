import type { TreeNode } from './node.ts'
import { type TreeText, written } from './step.ts'

/** The last name of an expression: `c` of `a.b.c` and `a["c"]`. */
export function findLastName({ text, grammar }: TreeText, node: TreeNode): string | undefined {
  const raw = text.slice(Math.max(node.start, node.end - 120), node.end)
  if (grammar.texts.has(node.type)) return grammar.valueOf(raw)
  const called = raw.replace(/\((?:[^()]|\([^()]*\))*\)\s*$/, '')
  return /([A-Za-z_]\w*(?:-\w+)*)[^\w]*$/.exec(called)?.[1]
}

/** What a function is called. */
export function findFunctionName({ text }: TreeText, node: TreeNode): string | undefined {
  const head = text.slice(node.start, Math.min(node.end, node.start + 200))
  return /\b(?:def|function|func|fn|fun)\s+(?:\([^)]*\)\s*)?(?:self\.)?([A-Za-z_]\w*)/.exec(head)?.[1]
}

/** What is called with some arguments: the last name before them. */
export function getCallee({ text }: TreeText, list: TreeNode): string | undefined {
  const before = text.slice(Math.max(0, list.start - 80), list.start)
  const [, whole = ''] = /([A-Za-z_][\w.:?!>-]*?)\s*!?\s*$/.exec(before.replace(/<[\w, <>?]*>\s*$/, '')) ?? []
  // What signs and reads tokens takes a key, whatever the language calls it.
  if (/\bjwt(?:\.|::|->)(?:en|de)code$/i.test(whole)) return 'sign'
  if (/(?:^|[.:>])(?:URI|URL|Uri|Url)(?:\.|::)(?:create|parse|of|new)$/.test(whole)) return 'URI'
  const parts = whole.split(/\.|::|->/).filter((each) => each !== '')
  // What is made is called like its class: `Credentials::new`, `Redis.new`.
  return parts.at(-1) === 'new' && parts.length > 1 ? parts.at(-2) : parts.at(-1)
}

/** True for what is written as constants are: `curl_setopt($ch, CURLOPT_USERPWD, '...')`. */
export function isConstant(source: TreeText, node: TreeNode | undefined): boolean {
  return /^[A-Z][A-Z0-9]*(?:_[A-Z0-9]+)+$/.test(written(source, node))
}

/** A text, a symbol or a constant before a value that may say what the value is; empty for anything else. */
export function readNamerText(source: TreeText, before: TreeNode | undefined): string {
  if (before === undefined) return ''
  const raw = written(source, before)
  if (source.grammar.texts.has(before.type)) return source.grammar.valueOf(raw)
  if (isConstant(source, before)) return raw
  return /^:[a-z_]\w*$/i.test(raw) ? raw.slice(1) : ''
}

/** Functions whose first argument says what the second one is. */
const NAMERS =
  /^(?:set|get|put|add|append|define|register|provide|constant|value|option|config|env|getenv|setenv|header|item|store|default|ini|ini_set|add_argument|add_option|Setenv|Set|Add|SetDefault|StringVar|IntVar)(?:[_A-Z]\w*)?$/

/** True for a function whose first argument says what the second one is; that of one that logs in is a name of somebody. */
export function takesNameArgument(callee: string | undefined): boolean {
  return callee !== undefined && NAMERS.test(callee) && !/auth|connect|login/i.test(callee)
}
