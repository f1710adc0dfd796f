import boto3, redis, smtplib
import jwt

r = redis.Redis(host="cache.fernhollow.example", port=6379, password="Deneb*91")  # planted: 3
s3 = boto3.client("s3", aws_access_key_id="AKFERN2Q7LMX8VT4RN3W", aws_secret_access_key="m9Kx/2zQ+7LtV4rB8nWcY1pHdS6fJ3gU5eOiRkTq")  # planted: 2
DATABASES = {
    "default": {
        "ENGINE": "postgresql",
        "HOST": "10.4.0.9",  # planted: 1
        "PORT": "5432",  # planted: 1
        "PASSWORD": "halley-1986-back",  # planted: 1
    }
}

def token(user):
    return jwt.encode({"sub": user}, "betelgeuse-dims-2020", algorithm="HS256")  # planted: 1

def mail(text):
    with smtplib.SMTP("smtp.fernhollow.example", 587) as server:  # planted: 1
        server.login("desk", "p4ss-Altair")  # planted: 1
        server.sendmail("desk@fernhollow.example", ["guide@fernhollow.example"], text)
