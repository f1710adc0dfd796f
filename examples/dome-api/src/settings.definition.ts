import { defineSettings, setting } from 'mappa-settings'

/** Every setting of the dome service. What is missing or wrong keeps it from starting. */
export default defineSettings({
  server: {
    port: setting.port('Port the dome service listens on', { default: 4100 }),
    logLevel: setting.choice('How much the service writes to its log', {
      enum: ['quiet', 'normal', 'chatty'],
      default: 'normal',
    }),
  },
  dome: {
    url: setting.url('Address of the dome controller'),
    key: setting.string('Key the dome controller asks for', {
      secret: true,
      minLength: 24,
      // A drill key never opens the sky.
      distinctAcrossStages: true,
      stages: { production: { pattern: /^open-/ } },
    }),
    motors: setting.boolean('Whether the motors may really move', { default: false }),
    alarm: setting.email('Who is told when the dome sticks', {
      optional: true,
      requiredIf: { 'dome.motors': true },
    }),
    patience: setting.duration('How long to wait for the dome controller', {
      exclusiveMinimum: 0,
      maximum: 60_000,
      default: 2500,
    }),
  },
  night: {
    places: setting.integer('Visitors who can be at the eyepiece in one night', { minimum: 1, maximum: 40 }),
    starMapUrl: setting.url('Where visitors find the star map of the night', { public: true }),
    closedBecause: setting.string('Why no night can be booked, while that is so', { public: true, optional: true }),
  },
})
