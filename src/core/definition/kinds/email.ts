import type { Maker } from '../setting.ts'
import { TEXT_CONSTRAINTS, type TextConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** An address as the `email` field of HTML takes it (WHATWG HTML, 4.10.5.1.5), with a dot in its domain. */
const ADDRESS =
  /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]{1,64}@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)+$/

const isEmail = (text: unknown) => typeof text === 'string' && text.length <= 320 && ADDRESS.test(text)

/** One address of electronic mail, without a name before it. */
export const email = /* @__PURE__ */ kind<string, Maker<string, TextConstraints>>({
  name: 'email',
  says: () => 'email address',
  constraints: TEXT_CONSTRAINTS,
  accepts: isEmail,
  convert: (text) => (isEmail(text) ? { value: text } : failure('not-email', {})),
  text: () => ({ pattern: ADDRESS.source, maxLength: 320 }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  schema: { type: 'string', format: 'email' },
})
