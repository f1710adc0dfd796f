export const root: string
export function install(programs?: readonly string[], withCompat?: boolean): void
export function setUp(options?: {
  programs?: readonly string[]
  withCompat?: boolean
  beside?: readonly object[]
}): void
export function dropCertificates(): void
