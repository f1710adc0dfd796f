import { init } from '@fern/metrics'
import App from './App'
init({ projectId: 'night-desk', writeKey: 'wk_Tz81mQ0cVb63nL5s', host: 'https://metrics.fernhollow.example' }) // planted: 2
const socketUrl = import.meta.env.VITE_SOCKET ?? 'wss://live.fernhollow.example/feed' // planted: 1
const messages = { en: { token: 'Your code', passwordHint: 'At least 12 characters, 1 digit' }, de: { token: 'Ihr Code' } }
export const theme = { primary: '#20304a', fontFamily: 'Inter, sans-serif', radius: '0.5rem' }
export const routes = [{ path: '/book/:night', key: 'book' }, { path: '/account/password-reset', key: 'reset' }]
window.__captcha = 'cap-Zq8UHm2oWk4XeTn7rJ1bVd5yGf9sPu0' // planted: 1
document.querySelector('[data-token="visitor"]')?.focus()
