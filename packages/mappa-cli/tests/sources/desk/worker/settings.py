SECRET_KEY = 'n#8xq2-observatory-key-0v$w1' # planted: 1
ALLOWED_HOSTS = ['localhost']
DATABASES = {
    'default': {
        'ENGINE': 'db.backends.postgresql',
        'NAME': 'nights',
        'PASSWORD': 'tawny-2-tawny', # planted: 1
        'HOST': 'pg.fernhollow.example', # planted: 1
        'PORT': '5432', # planted: 1
    }
}
EMAIL_HOST_PASSWORD = os.getenv('EMAIL_PASSWORD', 'barn-door-991') # planted: 1
STATIC_URL = '/static/'
TOKEN_MODEL = 'accounts.models.Token'
LANGUAGE_CODE = 'en-gb'
