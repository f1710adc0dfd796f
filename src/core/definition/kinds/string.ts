import type { Maker } from '../setting.ts'
import { TEXT_CONSTRAINTS, type TextConstraints } from './constraints.ts'
import { kind } from './kind.ts'

/** Any text, as it stands: nothing is trimmed. */
export const string = /* @__PURE__ */ kind<string, Maker<string, TextConstraints>>({
  name: 'string',
  says: () => 'text',
  constraints: TEXT_CONSTRAINTS,
  accepts: (value) => typeof value === 'string',
  convert: (text) => ({ value: text }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  schema: { type: 'string' },
})
