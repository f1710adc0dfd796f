export default function About() {
  return <p id="map">{process.env.VISITOR_MAP}</p>
}
