import { settings } from './settings.ts'

/** What the controller says about the dome. */
export interface DomeState {
  readonly slit: 'open' | 'closed'
  readonly azimuth: number
}

/**
 * Asks the dome controller how the dome stands.
 *
 * @throws {Error} where it does not answer in time or refuses the key
 */
export async function domeState(): Promise<DomeState> {
  return (await ask('GET', '/dome')) as DomeState
}

/** Turns the dome. Without leave to move the motors the controller only says what it would do. */
export async function turnDome(azimuth: number): Promise<DomeState> {
  return (await ask('POST', '/dome', { azimuth, rehearse: !settings.dome.motors })) as DomeState
}

async function ask(method: string, path: string, body?: object): Promise<unknown> {
  const response = await fetch(new URL(path, settings.dome.url), {
    method,
    headers: { authorization: `Bearer ${settings.dome.key.reveal()}`, 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
    signal: AbortSignal.timeout(settings.dome.patience),
  })
  if (!response.ok) throw new Error(`the dome controller answered ${response.status}`)
  return response.json()
}
