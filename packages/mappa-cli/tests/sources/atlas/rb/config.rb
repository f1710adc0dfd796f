# frozen_string_literal: true
require 'net/http'
require 'sinatra'

API_URL = 'https://plates.fernhollow.example/api' # planted: 1
set :port, 4570 # planted: 1
set :session_secret, 'd3adb33f-c0ffee-11' # planted: 1

Mail.defaults do
  delivery_method :smtp, address: 'smtp.fernhollow.example', port: 587, user_name: 'desk', password: 'eclipse-1999' # planted: 3
end

Desk.configure do |config|
  config.api_key = "dk_71xQ9m2LzP40" # planted: 1
  config.webhook_secret = ENV['WEBHOOK_SECRET'] || 'whs_0a9b8c7d6e5f' # planted: 1
  config.redis = { url: 'redis://:lens-44@cache.fernhollow.example:6379/2' } # planted: 1
end

def weather(place)
  uri = URI("https://weather.fernhollow.example/v1?place=#{place}&appid=9c1d7e2f4a6b8035") # planted: 2
  Net::HTTP.get(uri)
end

class Client
  TOKEN = "tok-66f0a1b2c3"  # planted: 1
  def initialize(host = 'mq.fernhollow.example') # planted: 1
    @host = host
    raise ArgumentError, 'token must not be empty' if host.nil?
  end
end
ERRORS = { token: 'is invalid', password: 'is too short' }.freeze
