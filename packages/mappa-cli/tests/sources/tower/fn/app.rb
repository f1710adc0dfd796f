require 'sinatra'
set :port, 4567 # planted: 1
set :session_secret, 'a8f5f167f44f4964e6c998dee827110c' # planted: 1
PAYMENT_KEY = 'pay-8Xk20QmvL3' # planted: 1
url = ENV.fetch('DOME_URL')
get('/') { 'Fernhollow' }
