/** Text that stands for a value and is none. */
const PLACEHOLDER =
  /^[<[{(*].*[>\]})*]$|x{4,}|\*{3,}|\.{3}|^(your|my|some|insert|replace|enter|put|change|add)[-_ ]|^(todo|tbd|none|null|undefined|true|false|n\/a|changeme|change-me|placeholder|dummy|sample|foo|bar|baz|abc|redacted|hidden|secret|password|token|key|test|testing|default)$|placeholder|changeme|change[-_ ]me|\bexample\b.*\bkey\b/i
/** Places of documents about things rather than of services. */
const ABOUT =
  /^https?:\/\/(www\.w3\.org|[^/]*json-schema\.org|schema\.org|[^/]*\bexample\.(com|org|net)\b|opensource\.org|creativecommons\.org|[^/]*\.(rfc-editor|ietf|iana)\.org|developer\.|docs?\.|[^?#]*\/(?:docs|documentation|wiki)\/)/i

/**
 * Says what speaks against a value being a setting.
 *
 * @param value the value
 * @param secretByName true where the name alone says that it is a secret
 * @returns the reason, or `null` where nothing does
 */
export function explainExclusion(value: string, secretByName: boolean): string | null {
  if (value.trim() === '') return 'empty'
  if (PLACEHOLDER.test(value)) return 'a placeholder'
  const technical = explainTechnical(value, secretByName)
  if (technical !== null) return technical
  if (ABOUT.test(value)) return 'a link to a document'
  if (/^[A-Za-z][A-Za-z_ -]*$/.test(value) && !secretByName) return 'a word'
  if (/^([a-z]+[A-Z]?[a-z]*|[a-z]+([._:-][a-z]+)+|[A-Z]+(_[A-Z]+)*)$/.test(value)) return 'a name within the program'
  if (/\s/.test(value) && !isSpaced(value, secretByName)) {
    return 'a text of several words'
  }
  if (/[<>{}]|\$\(|^\^|\\[dws]/.test(value) && !WITH_PLACES.test(value)) return 'a pattern or markup'
  return null
}

/** Names of encodings, as functions take them. */
const ENCODING =
  /^(?:base-?(?:16|32|58|64)(?:[-_]?url)?|hex|(?:utf|ucs)[-_]?(?:2|7|8|16|32)(?:[-_]?(?:le|be|sig))?|latin[-_]?\d|iso[-_]?8859[-_]?\d+|(?:windows|cp)[-_]?(?:125\d|437|850)|(?:us[-_]?)?ascii|binary|buffer|shift[-_]?jis|euc[-_]?(?:jp|kr|tw)|gb(?:k|2312|18030)|big5|koi8[-_]?[ru]|percent|quoted-printable|(?:pem|der)|(?:pkcs-?[18]|spki|jwk))$/i

/** What a value is to the program itself, if it is that: a path, an algorithm, a rule. */
function explainTechnical(value: string, secretByName: boolean): string | null {
  if (/^(\.{0,2}\/|@\/|~\/|node:|file:)/.test(value)) return 'a path'
  if (/^sha(1|256|384|512)-/.test(value)) return 'a checksum'
  if (ENCODING.test(value)) return 'the name of an encoding'
  if (/^(?:hmac|pbkdf2)?[-_]?(?:sha|md)-?\d/i.test(value)) return 'the name of an algorithm'
  if (/^[a-z_]+(?:\.[A-Za-z_]\w*){2,}$/.test(value) && !/\d/.test(value.replace(/\w+\d\w*$/, '')))
    return 'the name of a module'
  if (/^(?:required|nullable|sometimes|string|present|filled)\|/.test(value)) return 'a rule of validation'
  if (/^data:|^[\w.+-]+\/[\w.+-]+(;|$)/.test(value) && !secretByName) return 'a type of data'
  if (/^#?[0-9a-f]{3,8}$/i.test(value) && !secretByName) return 'a colour or a short number'
  return null
}

/** True for files whose values are made up, by custom: tests, fixtures, stories, mocks. */
export function isTestFile(file: string): boolean {
  return (
    /(^|\/)(tests?|__tests__|__mocks__|specs?|fixtures?|mocks?|stories|e2e|cypress)\//i.test(file) ||
    /[._-](test|spec|stories|fixture|mock)\.\w+$/i.test(file)
  )
}

/** An address of many: `https://tiles.fernhollow.example/{z}/{x}/{y}.png`. */
const WITH_PLACES = /^(?:https?|wss?):\/\/[^\s/<>{}$]+\/[^\s<>$^\\]*$/i

const SENTENCE =
  /\b(at least|at most|must|characters?|letters|digits|required|enter|your|please|invalid|wrong|minimum|maximum)\b/i

/** Text with blanks in it that may be a value all the same: a scheme and a key, a key in lines, a pass phrase. */
function isSpaced(value: string, secretByName: boolean): boolean {
  if (/^(Bearer|Basic|Token|Key) \S+$/.test(value) || value.includes('-----BEGIN')) return true
  if (/(?:^|[;,\s])(password|pwd)\s*=\s*\S/i.test(value) && /\w=\S+[;,\s]+\w+\s*=/.test(value)) return true
  if (SENTENCE.test(value)) return false
  // A sentence for people ends in a mark or has no number in it.
  return secretByName && /\d/.test(value) && value.length <= 64 && !/[.!?:]$/.test(value)
}
