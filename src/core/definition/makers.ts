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
type MakerOf<K> = K extends Kind<infer _, infer Make> ? NonNullable<Make> : never

// Exports of a module rather than members of an object, so that a bundler leaves out the kinds that a program does not use.
const make = (kind: unknown, description: string, options?: object) => makeSetting(kind as Kind, description, options)

/** Makes a setting that is any text. */
export const string = ((description: string, options?: object) =>
  make(stringKind, description, options)) as unknown as MakerOf<typeof stringKind>
/** Makes a setting that is a whole number. */
export const integer = ((description: string, options?: object) =>
  make(integerKind, description, options)) as unknown as MakerOf<typeof integerKind>
/** Makes a setting that is a number. */
export const number = ((description: string, options?: object) =>
  make(numberKind, description, options)) as unknown as MakerOf<typeof numberKind>
/** Makes a setting that is true or false. */
export const boolean = ((description: string, options?: object) =>
  make(booleanKind, description, options)) as unknown as MakerOf<typeof booleanKind>
/** Makes a setting that is a port, 1 to 65535. */
export const port = ((description: string, options?: object) =>
  make(portKind, description, options)) as unknown as MakerOf<typeof portKind>
/** Makes a setting that is an absolute address. */
export const url = ((description: string, options?: object) =>
  make(urlKind, description, options)) as unknown as MakerOf<typeof urlKind>
/** Makes a setting that is one of several words. */
export const choice = ((description: string, options?: object) =>
  make(choiceKind, description, options)) as unknown as MakerOf<typeof choiceKind>
/** Makes a setting that is an email address. */
export const email = ((description: string, options?: object) =>
  make(emailKind, description, options)) as unknown as MakerOf<typeof emailKind>
/** Makes a setting that is the name of a host. */
export const hostname = ((description: string, options?: object) =>
  make(hostnameKind, description, options)) as unknown as MakerOf<typeof hostnameKind>
/** Makes a setting that is an IP address. */
export const ip = ((description: string, options?: object) => make(ipKind, description, options)) as unknown as MakerOf<
  typeof ipKind
>
/** Makes a setting that is several values of one kind. */
export const list = ((description: string, options?: object) =>
  make(listKind, description, options)) as unknown as MakerOf<typeof listKind>
/** Makes a setting that is a duration, in milliseconds. */
export const duration = ((description: string, options?: object) =>
  make(durationKind, description, options)) as unknown as MakerOf<typeof durationKind>
/** Makes a setting that is a size, in bytes. */
export const size = ((description: string, options?: object) =>
  make(sizeKind, description, options)) as unknown as MakerOf<typeof sizeKind>
/** Makes a setting that is a date and time, as a `Date`. */
export const dateTime = ((description: string, options?: object) =>
  make(dateTimeKind, description, options)) as unknown as MakerOf<typeof dateTimeKind>
/** Makes a setting that is data in JSON. */
export const json = ((description: string, options?: object) =>
  make(jsonKind, description, options)) as unknown as MakerOf<typeof jsonKind>
/** Makes a setting that is a key or certificate. */
export const pem = ((description: string, options?: object) =>
  make(pemKind, description, options)) as unknown as MakerOf<typeof pemKind>
/** Makes a setting that is bytes in base64. */
export const base64 = ((description: string, options?: object) =>
  make(base64Kind, description, options)) as unknown as MakerOf<typeof base64Kind>
/** Makes a setting that is a UUID. */
export const uuid = ((description: string, options?: object) =>
  make(uuidKind, description, options)) as unknown as MakerOf<typeof uuidKind>
/** Makes a setting that is a path. */
export const path = ((description: string, options?: object) =>
  make(pathKind, description, options)) as unknown as MakerOf<typeof pathKind>
/** Makes a setting that is what a conversion of your own gives back. */
export const custom = ((description: string, options?: object) =>
  make(customKind, description, options)) as unknown as MakerOf<typeof customKind>
