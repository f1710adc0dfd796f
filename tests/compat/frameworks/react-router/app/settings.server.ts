export { settings } from 'virtual:mappa/server'
