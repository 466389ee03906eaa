#!/usr/bin/env bash
# Chromium from Debian's packages, for the tests of the interface and the pictures.
set -euo pipefail
[ -x /usr/bin/chromium ] && exit 0
say() { printf 'mutabilis: %s\n' "$*" >&2; }
if ! command -v apt-get >/dev/null; then
  say "Chromium is missing at /usr/bin/chromium, and this is not Debian or Ubuntu: install it there and try again."
  exit 1
fi
if [ "$(id -u)" = 0 ]; then as=(); elif sudo -n true 2>/dev/null; then as=(sudo -n); else
  say "Chromium is missing, and installing it needs rights that this user lacks. Run: sudo apt-get install chromium, then make again."
  exit 1
fi
say "installing Chromium"
export DEBIAN_FRONTEND=noninteractive
"${as[@]}" apt-get update -qq
"${as[@]}" apt-get install -y -qq --no-install-recommends chromium >/dev/null
[ -x /usr/bin/chromium ] || { say "the package chromium did not bring /usr/bin/chromium; install it by hand."; exit 1; }
