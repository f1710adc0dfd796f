import boto3
import psycopg2
import pay_like as pay

pay.api_key = "plk_live_8Xk20Qm4Zz81Lp"  # planted: 1
s3 = boto3.client("s3", region_name="eu-hill-1", aws_access_key_id="FHAK4ZQ81LMX09PKTR22", aws_secret_access_key="x9K2m4Lq8Zp1Rt6Vw3Ys5Nb7Hc0Jd2Fg4Kl6Mo8P")  # planted: 2
conn = psycopg2.connect("dbname=plates user=plates password=lantern-61 host=db.fernhollow.example")  # planted: 1
BUCKET = "fernhollow-night-plates"  # planted: 1
QUEUE_URL = "https://queue.fernhollow.example/1234/plates"  # planted: 1
HELP = "Enter your password and your API key"
SCHEMA = "https://json-schema.org/draft/2020-12/schema"
COLORS = {"primary": "#1f2a44", "token": "#ffcc00"}
ERROR_CODES = {"bad_token": "E_TOKEN_INVALID", "no_key": "E_KEY_MISSING"}
VERSION = "2.14.1"
UUID_NAMESPACE = "6ba7b810-9dad-11d1-80b4-00c04fd430c8"
CHECKSUM = "9e107d9d372bb6826bd81d3542a419d6"
