export const LIBRARY: string
export const entries: Readonly<Record<string, string>>
export const referenceInput: readonly string[]
