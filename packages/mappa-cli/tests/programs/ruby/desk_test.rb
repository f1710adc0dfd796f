require 'digest'
require_relative 'desk'

digest = Digest::SHA256.hexdigest(JSON.generate(report))[0, 16]
abort "the report is another one: #{digest}" unless digest == 'e53b009ab695a453'
abort 'a port is no number' unless report[5][:port].is_a?(Integer) && report[5][:smtp_port].is_a?(Integer)
puts 'OK'
