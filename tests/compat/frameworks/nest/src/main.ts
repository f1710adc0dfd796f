// Before everything else: nothing starts with wrong settings.
import { settings } from './settings'
import 'reflect-metadata'
import { createHmac } from 'node:crypto'
import { Controller, Get, Header, Inject, Module } from '@nestjs/common'
import { NestFactory } from '@nestjs/core'

const SETTINGS = Symbol('settings')

@Controller()
class Desk {
  constructor(@Inject(SETTINGS) private readonly own: typeof settings) {}

  @Get()
  @Header('content-type', 'text/html')
  page() {
    const slip = createHmac('sha256', this.own.desk.key.reveal()).update('tonight').digest('hex').slice(0, 8)
    const { map, notice } = this.own.visitor
    return `<p id="map">${map}</p><p id="notice">${notice}</p><p id="slip">${slip}</p>`
  }

  @Get('settings')
  all() {
    return { desk: this.own.desk }
  }
}

@Module({ controllers: [Desk], providers: [{ provide: SETTINGS, useValue: settings }] })
class Observatory {}

void NestFactory.create(Observatory).then((app) => app.listen(process.env.PORT ?? 3000))
