#!/bin/sh
# Sends the log of a night to the archive.
ARCHIVE_TOKEN='arc-7d20b6f3e81c495a'
echo "sending $1 to https://archive.fernhollow.example/logs, with ${#ARCHIVE_TOKEN} characters of a token"
