import { useState } from 'react'
const API = 'https://desk.fernhollow.example/api' // planted: 1
const CAPTCHA_SITE_KEY = '6LeFERNAAAAAJq2xVt8Rn3Wc' // planted: 1

export default function Login({ onDone }) {
  const [token, setToken] = useState('')
  const submit = async () => {
    const answer = await fetch(`${API}/login`, { method: 'POST', body: JSON.stringify({ token, site: CAPTCHA_SITE_KEY }) })
    if (!answer.ok) throw new Error('wrong-password')
    localStorage.setItem('auth-token', (await answer.json()).token)
    onDone()
  }
  return (
    <form onSubmit={submit} className="login-form">
      <label htmlFor="token">Token</label>
      <input id="token" value={token} onChange={(event) => setToken(event.target.value)} />
      <button type="submit">Log in</button>
    </form>
  )
}
