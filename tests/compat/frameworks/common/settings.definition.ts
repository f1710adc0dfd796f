import { defineSettings, setting } from 'mappa-settings'

export default defineSettings({
  desk: { key: setting.string('Key that signs booking slips', { secret: true }) },
  dome: { url: setting.url('Address of the dome controller') },
  visitor: {
    map: setting.url('Where visitors find the star map', { public: true }),
    notice: setting.string('Line on top of the page', { public: true, readAt: 'runtime', default: '' }),
  },
})
