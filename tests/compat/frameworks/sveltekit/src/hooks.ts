import { Secret } from 'mappa-settings'

/** A secret that gets into the data of a page by mistake is a mask there. */
export const transport = {
  Secret: { encode: (value: unknown) => value instanceof Secret && String(value), decode: (mask: string) => mask },
}
