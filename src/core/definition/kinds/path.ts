import type { Maker } from '../setting.ts'
import { TEXT_CONSTRAINTS, type TextConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** Options of paths. */
export interface PathOptions extends TextConstraints {
  /** True where the file or directory must be there when the program starts. Relative paths begin at the project's directory. */
  readonly mustExist?: boolean
}

/** A path of a file or directory, as it is written. */
export const path = /* @__PURE__ */ kind<string, Maker<string, PathOptions>>({
  name: 'path',
  says: ({ mustExist }) => (mustExist === true ? 'path of something that exists' : 'path'),
  constraints: TEXT_CONSTRAINTS,
  options: { mustExist: { needed: 'true or false', accepts: (value) => typeof value === 'boolean' } },
  accepts: (value) => typeof value === 'string',
  // No system has a path with such a character in it.
  convert: (text) => (text.includes('\0') ? failure('not-path', {}) : { value: text }),
  text: ({ mustExist }) => ({ pattern: '^[^\\u0000]*$', notExpressed: mustExist === true ? ['mustExist'] : [] }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  schema: { type: 'string' },
})
