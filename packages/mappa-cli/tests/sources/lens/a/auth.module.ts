import { Module } from '@fern/common'
import { JwtModule } from '@fern/tokens'
import { StoreModule } from '@fern/store'

@Module({
  imports: [
    JwtModule.register({ secret: 'capella-over-fern-6', signOptions: { expiresIn: '1h' } }), // planted: 1
    StoreModule.forRoot({
      type: 'postgres',
      host: 'pg-1.fernhollow.example', // planted: 1
      port: 5432, // planted: 1
      username: 'guide',
      password: 'Lyra!7pm', // planted: 1
      database: 'nights',
      synchronize: false,
    }),
  ],
})
export class AuthModule {}
