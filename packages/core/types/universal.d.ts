/**
 * The few things beyond the language that both Node and browsers have and the core may use. The core is compiled
 * with these alone, so that nothing else slips in.
 */
interface UniversalUrl {
  readonly href: string
  readonly username: string
  readonly password: string
  readonly pathname: string
  readonly hash: string
  readonly searchParams: Iterable<[name: string, value: string]>
}
declare const URL: { new (url: string): UniversalUrl; canParse(url: string): boolean }

/** Encoding standard of WHATWG. */
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean })
  decode(input?: Uint8Array, options?: { stream?: boolean }): string
}

/** Base64 (RFC 4648), as Node and pages have it (WHATWG HTML, 8.3). */
declare function atob(data: string): string
declare function btoa(data: string): string
