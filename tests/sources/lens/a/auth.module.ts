import { Module } from '@nestjs/common'
import { JwtModule } from '@nestjs/jwt'
import { TypeOrmModule } from '@nestjs/typeorm'

@Module({
  imports: [
    JwtModule.register({ secret: 'capella-over-fern-6', signOptions: { expiresIn: '1h' } }), // planted: 1
    TypeOrmModule.forRoot({
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
