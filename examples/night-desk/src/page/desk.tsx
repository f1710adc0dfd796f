import { settings } from 'virtual:mappa/browser'
import { BookingForm } from './booking-form.tsx'
import { useNight } from './night.ts'

/** The whole page: tonight at the observatory, and the way to the eyepiece. */
export function Desk() {
  const night = useNight()
  return (
    <>
      {settings.visitor.notice !== '' && <p className="notice">{settings.visitor.notice}</p>}
      <main>
        <h1>Fernhollow observatory</h1>
        <section>
          <h2>Tonight</h2>
          {night === null && <p>Looking at the sky …</p>}
          {typeof night === 'string' && <p className="trouble">{night}</p>}
          {typeof night === 'object' && night !== null && (
            <p className="places">{night.closed ?? `${night.places} places at the eyepiece`}</p>
          )}
          <p>
            <a href={settings.visitor.starMapUrl}>Star map of the night</a>
          </p>
        </section>
        <BookingForm />
      </main>
    </>
  )
}
