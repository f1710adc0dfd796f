"""Watches the rain gauge of the observatory, and says when the dome has to close.

All settings come from the environment; `mappa run` has checked them before this starts.
"""

import hashlib
import hmac
import os

LIMIT = float(os.environ["RAIN_LIMIT"])
KEY = os.environ["RAIN_KEY"]
DOME = os.environ["DOME_URL"]
# A boolean may be written in several ways.
MAY_MOVE = os.environ["DOME_MOTORS"].lower() in ("true", "yes", "on", "1")


def signed(message: str) -> str:
    digest = hmac.new(KEY.encode(), message.encode(), hashlib.sha256).hexdigest()
    return f"{message} (signed {digest[:8]})"


def main() -> None:
    print(f"{os.environ['MAPPA_STAGE']}: the dome at {DOME} closes above {LIMIT} mm/h")
    with open(os.environ["RAIN_READINGS"], encoding="utf-8") as readings:
        for line in readings:
            time, amount = line.split()
            if float(amount) > LIMIT:
                todo = "close" if MAY_MOVE else "close (drill)"
                print(signed(f"{time} {amount} mm/h: {todo}"))
            else:
                print(f"{time} {amount} mm/h")


main()
