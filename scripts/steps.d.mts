export const root: string
export function install(programs?: readonly string[]): void
export function setUp(options?: { programs?: readonly string[]; beside?: readonly object[] }): void
