const Redis = require('ioredis')
const redis = new Redis({ host: '10.4.0.12', port: 6379, password: 'r3dis-Fern-88' }) // planted: 3
const CACHE_KEY = 'night:today'
const EVENTS = { open: 'dome:open', closed: 'dome:closed' }
const version = '2.14.0'
exports.today = () => redis.get(CACHE_KEY)
exports.etag = 'W/"5d8c72a5edda8-1a2b"'
exports.styles = { color: '#ff8800', font: 'Inter, sans-serif' }
exports.EVENTS = EVENTS
exports.version = version
