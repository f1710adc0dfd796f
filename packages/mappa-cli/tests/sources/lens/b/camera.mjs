export default class Camera {
  #password = 'eyepiece-41-mm' // planted: 1
  static host = 'cam.fernhollow.example' // planted: 1
  static PORT = 8554 // planted: 1
  url() {
    return `rtsp://keeper:${this.#password}@${Camera.host}:${Camera.PORT}/dome`
  }
  snapshot() {
    return fetch('http://cam.fernhollow.example/snap.jpg?apikey=cm-77b2e0d1f4a9') // planted: 1
  }
}
export const FORMATS = new Map([['jpg', 'image/jpeg'], ['fits', 'image/fits']])
export const hash = '9e107d9d372bb6826bd81d3542a419d6'
