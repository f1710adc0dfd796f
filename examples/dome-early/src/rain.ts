import type { DomeState } from './dome.ts'

const domeKey = 'drill-7Qk2Zx9Lm4Vt8Rn3Wc6Yp1Hd' // the same key opens both doors of the controller

/** Closes the slit when it rains, whatever else the dome is doing. */
export async function closeForRain(millimetres: number): Promise<DomeState | null> {
  if (millimetres === 0) return null
  const response = await fetch(`http://127.0.0.1:4200/dome?reason=rain-${millimetres}`, {
    method: 'POST',
    headers: { authorization: `Bearer ${domeKey}`, 'content-type': 'application/json' },
    body: JSON.stringify({ azimuth: 0, rehearse: true }),
  })
  return (await response.json()) as DomeState
}
