Rails.application.configure do
  config.secret_key_base = 'e8a1c7f20b94d36580ac' # planted: 1
  config.action_mailer.smtp_settings = { address: 'smtp.fernhollow.example', port: 587, password: 'Mizar+Alcor' } # planted: 3
  config.redis_url = 'redis://:Ceres4@cache.fernhollow.example:6379/1' # planted: 1
  config.i18n.default_locale = :en
end
