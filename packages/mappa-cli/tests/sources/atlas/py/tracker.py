"""Follows satellites over Fernhollow."""
import json
import logging
import smtplib

import requests
from redis import Redis

log = logging.getLogger(__name__)

TLE_SOURCE = "https://elements.fernhollow.example/active.txt"  # planted: 1
ORBIT_API_KEY = 'orb_9f3kQ82mmZx71LpA'  # planted: 1
TIMEOUT = 30
RETRIES = 5


class Tracker:
    base_url = "https://orbit.fernhollow.example/v2"  # planted: 1

    def __init__(self, token="tk-77ab31c9e0d24f55"):  # planted: 1
        self.token = token
        self.cache = Redis(host="cache.fernhollow.example", port=6379, password="orrery-77")  # planted: 3
        self.session = requests.Session()
        self.session.headers.update({
            "Authorization": f"Bearer {token}",
            "X-Api-Key": "c81e728d9d4c2f63",  # planted: 1
        })

    def fetch(self, name: str) -> dict:
        response = self.session.get(f"https://orbit.fernhollow.example/v2/objects/{name}", timeout=TIMEOUT)  # planted: 1
        if response.status_code == 404:
            raise KeyError("No object of that name: check the password of the catalogue")
        return response.json()

    def mail(self, text):
        with smtplib.SMTP("mail.fernhollow.example", 587) as server:  # planted: 2
            server.starttls()
            server.login("tracker@fernhollow.example", "Pl4tes&Domes")  # planted: 1
            server.sendmail("tracker@fernhollow.example", ["desk@fernhollow.example"], text)


DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": "plates",
        "USER": "plates",
        "PASSWORD": "glass-negatives-1931",  # planted: 1
        "HOST": "db.fernhollow.example",  # planted: 1
        "PORT": "5432",  # planted: 1
    }
}
SECRET_KEY = (
    "hk3$92kfl2"
    "p0q8z!mm1x"
)  # planted: 1 on line -2

if __name__ == "__main__":
    import uvicorn
    uvicorn.run("tracker:app", host="0.0.0.0", port=8043)  # planted: 1
