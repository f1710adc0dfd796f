import { setting, sharedSettings } from 'mappa-settings'

/** The settings that several services have. Their values stand in the layer files of this directory. */
export const shared = sharedSettings({
  weather: {
    url: setting.url('Where the weather station answers'),
    key: setting.string('Key the weather station asks for', { secret: true, minLength: 12 }),
  },
})
