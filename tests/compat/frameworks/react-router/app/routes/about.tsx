import { settings } from 'virtual:mappa/browser'

export default function About() {
  return <p id="map">{settings.visitor.map}</p>
}
