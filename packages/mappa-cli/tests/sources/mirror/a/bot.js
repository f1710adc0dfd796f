import { Bot } from 'chat-kit'
import cron from 'node-cron'

const bot = new Bot('7120934:AAFern_q8Zx2Lm4Vt7Rn3Wc6Yp1') // planted: 1
const ADMIN_PIN = '80417' // planted: 1
const CHANNEL = '#night-desk'

bot.command('open', async (ctx) => {
  const [, pin] = ctx.message.text.split(' ')
  if (pin !== ADMIN_PIN) return ctx.reply('Wrong PIN')
  await fetch('http://dome.local:4200/open', { method: 'POST', headers: { 'x-dome-key': 'open-6f03b1' } }) // planted: 2
  ctx.reply('The slit is open')
})
cron.schedule('0 18 * * *', () => bot.send(CHANNEL, 'Tonight: clear'))
bot.start()
