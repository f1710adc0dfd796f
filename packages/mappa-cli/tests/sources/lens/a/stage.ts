type Stage = 'dev' | 'live'
const stage = (process.env.STAGE ?? 'dev') as Stage

const endpoints: Record<Stage, string> = {
  dev: 'http://127.0.0.1:4200', // planted: 1
  live: 'https://dome.fernhollow.example', // planted: 1
}
const keys = { dev: 'drill-2c9a71', live: 'open-Vr84nQm2ZtLx07' } // planted: 2
export function controller(path = '/state') {
  switch (stage) {
    case 'live':
      return { url: endpoints.live + path, key: keys.live }
    default:
      return { url: endpoints.dev + path, key: keys.dev }
  }
}
export const labels = { key: 'Key', password: 'Password', url: 'Address of the dome' }
export const rules = { password: 'at least 12 characters', token: /^[a-z0-9-]+$/ }
