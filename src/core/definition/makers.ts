import { base64 as base64Kind } from './kinds/base64.ts'
import { boolean as booleanKind } from './kinds/boolean.ts'
import { choice as choiceKind } from './kinds/choice.ts'
import { custom as customKind } from './kinds/custom.ts'
import { dateTime as dateTimeKind } from './kinds/date-time.ts'
import { duration as durationKind } from './kinds/duration.ts'
import { email as emailKind } from './kinds/email.ts'
import { hostname as hostnameKind } from './kinds/hostname.ts'
import { integer as integerKind } from './kinds/integer.ts'
import { ip as ipKind } from './kinds/ip.ts'
import { json as jsonKind } from './kinds/json.ts'
import type { Kind } from './kinds/kind.ts'
import { list as listKind } from './kinds/list.ts'
import { number as numberKind } from './kinds/number.ts'
import { path as pathKind } from './kinds/path.ts'
import { pem as pemKind } from './kinds/pem.ts'
import { port as portKind } from './kinds/port.ts'
import { size as sizeKind } from './kinds/size.ts'
import { string as stringKind } from './kinds/string.ts'
import { url as urlKind } from './kinds/url.ts'
import { uuid as uuidKind } from './kinds/uuid.ts'
import { makeSetting } from './setting.ts'

/** The function that makes settings of a kind. */
function makerOf<T, Make>(kind: Kind<T, Make>): NonNullable<Make> {
  const make = (description: string, options?: object) => makeSetting(kind as unknown as Kind, description, options)
  return make as NonNullable<Make>
}

/** Makes a setting that is any text. */
export const string = /* @__PURE__ */ makerOf(stringKind)
/** Makes a setting that is a whole number. */
export const integer = /* @__PURE__ */ makerOf(integerKind)
/** Makes a setting that is a number. */
export const number = /* @__PURE__ */ makerOf(numberKind)
/** Makes a setting that is true or false. */
export const boolean = /* @__PURE__ */ makerOf(booleanKind)
/** Makes a setting that is a port, 1 to 65535. */
export const port = /* @__PURE__ */ makerOf(portKind)
/** Makes a setting that is an absolute address. */
export const url = /* @__PURE__ */ makerOf(urlKind)
/** Makes a setting that is one of several words. */
export const choice = /* @__PURE__ */ makerOf(choiceKind)
/** Makes a setting that is an email address. */
export const email = /* @__PURE__ */ makerOf(emailKind)
/** Makes a setting that is the name of a host. */
export const hostname = /* @__PURE__ */ makerOf(hostnameKind)
/** Makes a setting that is an IP address. */
export const ip = /* @__PURE__ */ makerOf(ipKind)
/** Makes a setting that is several values of one kind. */
export const list = /* @__PURE__ */ makerOf(listKind)
/** Makes a setting that is a duration, in milliseconds. */
export const duration = /* @__PURE__ */ makerOf(durationKind)
/** Makes a setting that is a size, in bytes. */
export const size = /* @__PURE__ */ makerOf(sizeKind)
/** Makes a setting that is a date and time, as a `Date`. */
export const dateTime = /* @__PURE__ */ makerOf(dateTimeKind)
/** Makes a setting that is data in JSON. */
export const json = /* @__PURE__ */ makerOf(jsonKind)
/** Makes a setting that is a key or certificate. */
export const pem = /* @__PURE__ */ makerOf(pemKind)
/** Makes a setting that is bytes in base64. */
export const base64 = /* @__PURE__ */ makerOf(base64Kind)
/** Makes a setting that is a UUID. */
export const uuid = /* @__PURE__ */ makerOf(uuidKind)
/** Makes a setting that is a path. */
export const path = /* @__PURE__ */ makerOf(pathKind)
/** Makes a setting that is what a conversion of your own gives back. */
export const custom = /* @__PURE__ */ makerOf(customKind)
