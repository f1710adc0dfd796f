import post from './mailer.js'
post.setApiKey('FH.kq2Zp0vXR7a.93hdk_2mfLQ8sT1') // planted: 1
const from = 'desk@fernhollow.example'
const templates = { welcome: 'tpl_welcome_v2', reset: 'tpl_password_reset_v1' }
export const send = (to, name) => post.send({ to, from, templateId: templates.welcome, data: { name, site: 'https://fernhollow.example' } }) // planted: 1