#!/usr/bin/env ruby
# frozen_string_literal: true

require 'json'
require 'uri'

API_URL = 'https://plates.fernhollow.example/api'
SECRET = "d3adb33f-c0ffee-11".freeze
LENS_KEY = %q(lens-91c0d2e7b8a4)
GATE_PASSWORD = "pa\#$w0rd-9\n"
ERRORS = { token: 'is invalid', password: 'is too short' }.freeze
WORDS = %w[password token secret].freeze

# Keeps what the desk is told.
class Desk
  attr_reader :options

  TOKEN = "tok-66f0a1b2c3"

  def initialize(host = 'mq.fernhollow.example', port: 1883)
    @options = {
      host: host,
      port: port,
      'password' => 'eclipse-1999',
      :webhook_secret => ENV['WEBHOOK_SECRET'] || 'whs_0a9b8c7d6e5f',
      redis_url: 'redis://:lens-44@cache.fernhollow.example:6379/2',
      smtp_port: Integer(ENV.fetch('SMTP_PORT', '2525')),
      hint: 'The password of the desk: ask "Ada"'
    }
  end

  def weather(place)
    URI("https://weather.fernhollow.example/v1?place=#{place}&appid=9c1d7e2f4a6b8035").to_s
  end

  def header
    { 'Authorization' => "Bearer upl_88xZq2Lm01" }
  end

  def query
    'https://plates.fernhollow.example/api/find?key=d3adb33f-c0ffee-11'
  end
end

def login(name, password)
  "#{name}:#{password}"
end

def report
  desk = Desk.new
  [API_URL, LENS_KEY, GATE_PASSWORD, SECRET, ERRORS, WORDS, Desk::TOKEN, desk.options, desk.weather('dome'), desk.header, desk.query,
   login('desk', 'umbra-2031')]
end

puts JSON.generate(report) if $PROGRAM_NAME == __FILE__
