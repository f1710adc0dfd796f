import argparse
import asyncio
import openmind_like
from aiohttp_like import ClientSession, BasicAuth
from azure_like.storage import BlobServiceClient

client = openmind_like.Client(api_key="om-proj-8Kd72mXq0LzR41vT")  # planted: 1
blob = BlobServiceClient.from_connection_string("DefaultEndpointsProtocol=https;AccountName=plates;AccountKey=9vK2mLq8Zp1Rt6Vw3Ys5Nb7Hc0Jd2Fg4Kl6Mo8P==;EndpointSuffix=core.fernhollow.example")  # planted: 1

parser = argparse.ArgumentParser(description="Talks to visitors; needs a token")
parser.add_argument("--endpoint", default="https://bot.fernhollow.example/updates")  # planted: 1
parser.add_argument("--token", default="bt-77c1b0a9d8e6f5")  # planted: 1
parser.add_argument("--verbose", action="store_true")


async def main():
    async with ClientSession(auth=BasicAuth("bot", "gibbous-moon-8")) as session:  # planted: 1
        async with session.ws_connect("wss://stream.fernhollow.example/v1") as ws:  # planted: 1
            await ws.send_json({"type": "auth", "token": "ws-1029384756af"})  # planted: 1
    jwt_secret = "orrery" + "-signing-" + "2041x"  # planted: 1
    print("Invalid token", jwt_secret)
    raise ValueError("secret must be at least 12 characters")


asyncio.run(main())
