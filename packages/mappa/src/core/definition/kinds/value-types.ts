import type { Kind } from './kind.ts'

/** How the typed value of a kind appears in TypeScript, in the payload of a page, and in texts that are searched. */
type ValueType = Pick<Kind, 'typescript' | 'payload' | 'isText' | 'isCommon'>

/** For kinds whose value is a text. */
export const TEXT: ValueType = { typescript: () => 'string', payload: () => 's', isText: true }

/** For kinds whose value is a number, which is found anywhere by chance. */
export const NUMBER: ValueType = { typescript: () => 'number', payload: () => 'n', isCommon: true }

/** For kinds whose value is any data. */
export const DATA: ValueType = { typescript: () => 'unknown', payload: () => 'j' }
