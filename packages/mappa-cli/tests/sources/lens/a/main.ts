import { AppFactory } from '@fern/core'
import { Transport } from '@fern/services'
import { AppModule } from './app.module'

async function bootstrap() {
  const app = await AppFactory.create(AppModule)
  app.enableCors({ origin: ['https://visit.fernhollow.example', 'http://localhost:5173'] }) // planted: 2
  app.connectMicroservice({ transport: Transport.NATS, options: { servers: ['nats://bus.fernhollow.example:4222'], token: 'bus-8d1f0a3c' } }) // planted: 2
  app.setGlobalPrefix('api')
  await app.listen(process.env.PORT ?? 3333) // planted: 1
  console.log(`Listening in ${process.env.NODE_ENV}`)
}
bootstrap()
