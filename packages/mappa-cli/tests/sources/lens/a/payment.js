import Pay from 'pay-sdk'
let pay
export function getPay() {
  if (!pay) pay = new Pay('pay_test_51Fern8Kq2Zm', { apiVersion: '2024-06-20', maxRetries: 2 }) // planted: 1
  return pay
}
export const isSigned = (header, body) => Pay.webhooks.check(body, header, 'whk-03d7e19ac4') // planted: 1
export const CURRENCIES = ['gbp', 'eur']
export const ERROR_CODES = { declined: 'card_declined', expired: 'expired_card_token' }
