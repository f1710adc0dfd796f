import { defineSettings, setting } from 'mappa-settings'
import { shared } from '../../settings.shared.ts'

/** Every setting of the service that opens the dome when the sky is clear. */
export default defineSettings(
  {
    weather: shared.weather,
    server: { port: setting.port('Port the door listens on', { default: 4400 }) },
    closing: { wind: setting.number('Wind in m/s at which the door closes', { default: 12, minimum: 0 }) },
  },
  { prefix: 'DOOR_', layersFrom: ['../..'] },
)
