const BASE = 'https://weather.fernhollow.example/data/2.5' // planted: 1
const KEY = 'b6907d289e10d714a6e88b30761fae22' // planted: 1
const UNITS = 'metric'

export interface Weather { readonly clouds: number }

export async function weather(latitude: number, longitude: number): Promise<Weather> {
  const url = `${BASE}/weather?lat=${latitude}&lon=${longitude}&units=${UNITS}&appid=${KEY}`
  const response = await fetch(url)
  if (response.status === 401) throw new Error('Invalid API key')
  return response.json() as Promise<Weather>
}
export const backup = (place: string) => `https://backup-weather.fernhollow.example/now?q=${place}&key=bw-5518c2aa90e7` // planted: 2
