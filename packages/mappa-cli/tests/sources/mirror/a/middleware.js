const jwt = require('jsonwebtoken')
const crypto = require('crypto')
const passport = require('passport')

const privateSalt = 'mira-waxes-and-wanes-332' // planted: 1
module.exports.auth = (req, res, next) => {
  const raw = (req.headers.authorization || '').replace('Bearer ', '')
  try {
    req.user = jwt.verify(raw, process.env.JWT_SECRET || 'fallback-fomalhaut-25') // planted: 1
    next()
  } catch {
    res.status(401).json({ error: 'invalid_token', message: 'Sign in again' })
  }
}
module.exports.hash = (text) => crypto.createHmac('sha256', privateSalt).update(text).digest('base64url')
passport.use(new OAuth2Strategy({
  authorizationURL: 'https://id.fernhollow.example/authorize', // planted: 1
  tokenURL: 'https://id.fernhollow.example/token', // planted: 1
  clientID: 'night-desk-web-19',
  clientSecret: 'qN4-rigel-Kent', // planted: 1
}, () => {}))
module.exports.COOKIE = { name: 'fern.sid', maxAge: 86400000, sameSite: 'lax' }
