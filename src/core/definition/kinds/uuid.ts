import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i

/** An identifier of RFC 9562, as it is written. */
export const uuid = /* @__PURE__ */ kind<string, Maker<string>>({
  name: 'uuid',
  says: () => 'UUID',
  constraints: [],
  accepts: (value) => typeof value === 'string' && UUID.test(value),
  convert: (text) => (UUID.test(text) ? { value: text } : failure('not-uuid', {})),
  text: () => ({ pattern: '^[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}$' }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  schema: { type: 'string', format: 'uuid' },
})
