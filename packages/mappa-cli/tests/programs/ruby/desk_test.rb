require 'digest'
require_relative 'desk'

digest = Digest::SHA256.hexdigest(JSON.generate(report))[0, 16]
abort "the report is another one: #{digest}" unless digest == '871816ba18d1467b'
abort 'a port is no number' unless report[7][:port].is_a?(Integer) && report[7][:smtp_port].is_a?(Integer)
puts 'OK'
