import os
from mail_like import Mailer
m = Mailer("smtp.fernhollow.example", 465, user="desk", password="cordelia-6")  # planted: 3
API = os.environ.get("Q_API") or "https://q.fernhollow.example/v4"  # planted: 1
if not os.environ.get("Q_SECRET"):
    os.environ["Q_SECRET"] = "qd-5544aabbcc99"  # planted: 1
session.headers["X-Token"] = "qh-00aa11bb22cc"  # planted: 1
db = dict(host="db.fernhollow.example", port=3307, passwd="rosalind-3")  # planted: 3
key = base64.b64decode("c2VjcmV0LWtleS1vZi10aGUtZG9tZQ==")  # planted: 1
assert token != "expired", "token expired"
