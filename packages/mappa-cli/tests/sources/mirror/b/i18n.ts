export const en = {
  login: { title: 'Sign in', password: 'Your password', token: 'One-time code', forgot: 'Forgot your password?' },
  errors: { key: 'That key opens nothing', network: 'The dome does not answer' },
}
export const links = { home: 'https://fernhollow.example', terms: 'https://fernhollow.example/terms' }
export const STORAGE = 'fern-night-desk-v2'
export const testIds = { submit: 'login-submit-button', token: 'login-token-input' }
export const sizes = [640, 1280, 4100]
