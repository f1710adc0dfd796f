import { base64 } from './base64.ts'
import { boolean } from './boolean.ts'
import { choice } from './choice.ts'
import { custom } from './custom.ts'
import { dateTime } from './date-time.ts'
import { duration } from './duration.ts'
import { email } from './email.ts'
import { hostname } from './hostname.ts'
import { integer } from './integer.ts'
import { ip } from './ip.ts'
import { json } from './json.ts'
import { list } from './list.ts'
import { number } from './number.ts'
import { path } from './path.ts'
import { pem } from './pem.ts'
import { port } from './port.ts'
import { size } from './size.ts'
import { string } from './string.ts'
import { url } from './url.ts'
import { uuid } from './uuid.ts'

/** Every kind by its name. To add one, write its file and a line here. */
export const kinds = {
  string,
  integer,
  number,
  boolean,
  port,
  url,
  choice,
  email,
  hostname,
  ip,
  list,
  duration,
  size,
  dateTime,
  json,
  pem,
  base64,
  uuid,
  path,
  custom,
}
