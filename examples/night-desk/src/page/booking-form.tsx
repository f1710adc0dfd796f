import { type FormEvent, useState } from 'react'

/** Asks the server of the desk for a booking slip. */
export function BookingForm() {
  const [slip, setSlip] = useState<string | null>(null)
  async function book(event: FormEvent<HTMLFormElement>) {
    event.preventDefault()
    const answer = await fetch('/bookings', { method: 'POST', body: new FormData(event.currentTarget) })
    setSlip(answer.ok ? await answer.text() : 'The desk is closed just now.')
  }
  return (
    <section>
      <h2>Book a place</h2>
      <form onSubmit={book}>
        <label>
          Your name <input name="visitor" required maxLength={60} autoComplete="name" />
        </label>
        <button type="submit">Book</button>
      </form>
      {slip !== null && <output>{slip}</output>}
    </section>
  )
}
