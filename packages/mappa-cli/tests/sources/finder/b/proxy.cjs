const { createProxyMiddleware } = require('http-proxy-middleware')
const TARGET = process.env.TARGET || 'http://10.4.0.21:8081' // planted: 1
module.exports = (app) => app.use('/api', createProxyMiddleware({ target: TARGET, changeOrigin: true, auth: 'proxy:Kochab-2' })) // planted: 1
