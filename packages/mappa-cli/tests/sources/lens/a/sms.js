const accountSid = 'ACfern6d20a4c19b7e3f58' // planted: 1
const authToken = '4be0917cd2a85f36' // planted: 1
const client = require('sms-client')(accountSid, authToken)
const FROM = '+441632960123'

exports.remind = (to, night) =>
  client.messages.create({ to, from: FROM, body: `Your night at the eyepiece is ${night}. See https://fernhollow.example/nights` })
