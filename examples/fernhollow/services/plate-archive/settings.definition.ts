import { defineSettings, setting } from 'mappa-settings'
import { shared } from '../../settings.shared.ts'

/** Every setting of the service that keeps the plates of each night. */
export default defineSettings(
  {
    weather: { url: shared.weather.url },
    plates: { directory: setting.path('Directory with the plates', { default: 'plates' }) },
  },
  { prefix: 'ARCHIVE_', layersFrom: ['../..'] },
)
