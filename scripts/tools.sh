#!/bin/sh
# Installs what the tests use of Debian and this machine does not have: Chromium's shell without a head for the journeys, the
# circuit simulator that judges the electrical model, pdftotext to read sheets as a person's program would, and anybody's
# MQTT client for the stand-in hub.
set -e
missing=
command -v chromium-headless-shell >/dev/null || missing="$missing chromium-headless-shell"
command -v ngspice >/dev/null || missing="$missing ngspice"
command -v pdftotext >/dev/null || missing="$missing poppler-utils"
command -v mosquitto_sub >/dev/null || missing="$missing mosquitto-clients"
test -z "$missing" && exit
echo "installing$missing"
apt-get update -qq
DEBIAN_FRONTEND=noninteractive apt-get install -y -qq $missing >/dev/null
