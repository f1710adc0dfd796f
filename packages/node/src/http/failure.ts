import { isStoreError, StoreError } from '@mappa/core/store/store-error'

/** What codes of the system mean, as a part of a sentence behind the address. */
const MEANINGS: Readonly<Record<string, string>> = {
  ECONNREFUSED: 'refuses the connection',
  ECONNRESET: 'broke the connection',
  EPIPE: 'broke the connection',
  ENOTFOUND: 'is a name that is not known',
  EAI_AGAIN: "is a name that can't be looked up at the moment",
  EHOSTUNREACH: "can't be reached on the network",
  ENETUNREACH: "can't be reached on the network",
  ETIMEDOUT: 'does not answer',
}

/** What is wrong with a certificate, as a part of a sentence. */
const CERTIFICATES: Readonly<Record<string, string>> = {
  CERT_HAS_EXPIRED: 'its certificate has expired',
  CERT_NOT_YET_VALID: 'its certificate is not valid yet: check the clocks',
  ERR_TLS_CERT_ALTNAME_INVALID: 'its certificate is for another name',
  DEPTH_ZERO_SELF_SIGNED_CERT: 'its certificate is signed by nobody else, and not among those to trust',
  SELF_SIGNED_CERT_IN_CHAIN: 'its certificate is signed by somebody who is not to be trusted',
  UNABLE_TO_VERIFY_LEAF_SIGNATURE: 'its certificate is signed by somebody who is not to be trusted',
  UNABLE_TO_GET_ISSUER_CERT_LOCALLY: 'its certificate is signed by somebody who is not to be trusted',
}

/** What a failed request means. Never what was sent. */
export function toFailure(error: unknown, { host }: URL): StoreError {
  if (isStoreError(error)) return error
  const { code = '', message = '' } = error as NodeJS.ErrnoException
  const certificate = CERTIFICATES[code]
  // Another certificate does not come by trying again.
  if (certificate !== undefined) return new StoreError('answer', `${host} can't be trusted: ${certificate}`)
  if (code === 'EPROTO' || code.startsWith('ERR_SSL')) return new StoreError('answer', `${host} does not speak TLS`)
  if (code.startsWith('HPE_')) return new StoreError('answer', `${host} does not speak HTTP`)
  if (/aborted|socket hang up|terminated/i.test(message))
    return new StoreError('unreachable', `${host} broke the connection`)
  return new StoreError('unreachable', `${host} ${MEANINGS[code] ?? `failed with ${code || 'an unknown error'}`}`)
}
