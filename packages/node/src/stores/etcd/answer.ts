/** What the gateway answers: JSON, in which 64-bit numbers are texts. */
export type Answer = Readonly<Record<string, unknown>>
