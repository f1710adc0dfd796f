import type { ValueType } from './kind.ts'

/** For kinds whose value is a text. */
export const TEXT: ValueType = { typescript: () => 'string', payload: () => 's', isText: true }

/** For kinds whose value is a number, which is found anywhere by chance. */
export const NUMBER: ValueType = { typescript: () => 'number', payload: () => 'n', isCommon: true }

/** For kinds whose value is any data. */
export const DATA: ValueType = { typescript: () => 'unknown', payload: () => 'j' }
