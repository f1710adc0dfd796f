import pay from 'paylib'
const gateway = pay('plk_live_81Zx2Lq0TmKd93') // planted: 1
const mailer = createTransport({ host: 'smtp.fernhollow.example', port: 465, auth: { user: 'desk', pass: 'first-light-7' } }) // planted: 3
export const base = process.env.NODE_ENV === 'production' ? 'https://api.fernhollow.example' : 'https://staging.api.fernhollow.example' // planted: 2
export const sign = (x: object) => jwt.sign(x, 'shhhh-its-dark') // planted: 1
const hosts = ['https://a.fernhollow.example', 'https://b.fernhollow.example'] // planted: 2
