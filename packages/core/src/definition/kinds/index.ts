/**
 * The functions of `setting`, one for each kind. To add a kind, write its file and a line here.
 *
 * Exports of a module rather than members of an object, so that a bundler leaves out the kinds that a program does not use.
 *
 * @packageDocumentation
 */

export { base64 } from './base64.ts'
export { boolean } from './boolean.ts'
export { choice } from './choice.ts'
export { custom } from './custom.ts'
export { dateTime } from './date-time.ts'
export { duration } from './duration.ts'
export { email } from './email.ts'
export { hostname } from './hostname.ts'
export { integer } from './integer.ts'
export { ip } from './ip.ts'
export { json } from './json.ts'
export { list } from './list.ts'
export { number } from './number.ts'
export { path } from './path.ts'
export { pem } from './pem.ts'
export { port } from './port.ts'
export { size } from './size.ts'
export { string } from './string.ts'
export { url } from './url.ts'
export { uuid } from './uuid.ts'
