export const config = {
  env: 'development',
  server: { host: '0.0.0.0', port: 8443 }, // planted: 2
  database: {
    client: 'pg',
    connection: {
      host: 'db.fernhollow.example', // planted: 1
      user: 'visitor',
      password: 'Zm4-orbit-Kt', // planted: 1
      database: 'observatory',
    },
    pool: { min: 2, max: 10 },
  },
  oauth: {
    clientId: '483920175562-fern7q2l', // planted: 1
    clientSecret: 'GX-9aLmTq27RvYw4KpZb', // planted: 1
    callbackURL: 'http://localhost:8443/auth/callback', // planted: 1
    scope: ['profile', 'email'],
  },
  chat: { webhook: 'https://hooks.fernhollow.example/T0F3RN/B8H0LL0W/v7Kq2mXz9LtR4nWc' }, // planted: 1
  messages: { welcome: 'Welcome to the night desk', wrongPassword: 'That password is not right' },
  locale: 'en-GB',
} as const
