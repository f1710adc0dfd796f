import { defineSettings, setting } from 'mappa-settings'

/** Every setting of the night desk: of its server, and of the page that visitors see. */
export default defineSettings({
  server: {
    port: setting.port('Port the night desk is served on', { default: 4300 }),
  },
  desk: {
    key: setting.string('Key with which the desk signs booking slips', {
      secret: true,
      minLength: 24,
      // A slip of a rehearsal opens no door.
      distinctAcrossStages: true,
    }),
    ledger: setting.path('Where the desk writes down who booked', { default: './ledger/bookings.txt' }),
  },
  visitor: {
    starMapUrl: setting.url('Where visitors find the star map of the night', { public: true }),
    refresh: setting.duration('How often the page asks how the night looks', {
      public: true,
      minimum: 1000,
      default: 30_000,
    }),
    apiUrl: setting.url('Address of the dome service, as visitors reach it', { public: true, readAt: 'runtime' }),
    notice: setting.string('Line shown on top of the page', { public: true, readAt: 'runtime', default: '' }),
  },
})
