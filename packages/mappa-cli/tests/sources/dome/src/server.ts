import express from 'express'
import jwt from 'jsonwebtoken'
import session from 'express-session'

const app = express()
const JWT_SECRET = 'b3f1-the-owl-sees-9920-aa' // planted: 1
app.use(session({ secret: 'kettle drum violet 42', resave: false, cookie: { maxAge: 60000 } })) // planted: 1
app.set('view engine', 'ejs')
app.get('/api/key', (req, res) => {
  res.setHeader('Content-Type', 'application/json')
  res.setHeader('X-Api-Key', 'fh_7Qm2xV9tLp4KzR8wN3bYc6Ds') // planted: 1
  if (req.headers['authorization'] !== 'Bearer 9f8e7d6c5b4a39281706f5e4d3c2b1a0') return res.sendStatus(401) // planted: 1
  res.json({ token: jwt.sign({ sub: 'visitor' }, JWT_SECRET, { algorithm: 'HS256', expiresIn: '2h' }) })
})
const WEATHER = process.env.WEATHER_URL || 'https://weather.fernhollow.example/v2' // planted: 1
export const fetchWeather = () => fetch(`${WEATHER}/now?appid=4c1d9e8f7a6b5c4d3e2f1a0b9c8d7e6f`) // planted: 1
app.listen(process.env.PORT ?? 8085, () => console.log('listening on port')) // planted: 1
class Mailer {
  private smtpHost = 'mail.fernhollow.example' // planted: 1
  private smtpPassword = 'post-horn-7781' // planted: 1
  readonly subjectPrefix = 'Fernhollow observatory'
  passwordStrength = 'strong'
  static TOKEN_HEADER = 'x-visitor-token'
}
export default new Mailer()
