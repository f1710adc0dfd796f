import { boolean } from './boolean.ts'
import { choice } from './choice.ts'
import { integer } from './integer.ts'
import { number } from './number.ts'
import { port } from './port.ts'
import { string } from './string.ts'
import { url } from './url.ts'

/** Every kind by its name. To add one, write its file and a line here. */
export const kinds = { string, integer, number, boolean, port, url, choice }
