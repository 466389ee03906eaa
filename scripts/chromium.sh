#!/usr/bin/env bash
# Chromium without windows from Debian's packages, for the tests of the interface and the pictures; the whole Chromium does too.
set -euo pipefail
shell=/usr/bin/chromium-headless-shell whole=/usr/bin/chromium
[ -x $shell ] && exit 0
say() { printf 'mutabilis: %s\n' "$*" >&2; }
if ! command -v apt-get >/dev/null; then
  [ -x $whole ] && exit 0
  say "Chromium is missing at $shell and $whole, and this is not Debian or Ubuntu: install it there and try again."
  exit 1
fi
if [ "$(id -u)" = 0 ]; then as=(); elif sudo -n true 2>/dev/null; then as=(sudo -n); else
  [ -x $whole ] && exit 0
  say "Chromium is missing, and installing it needs rights that this user lacks. Run: sudo apt-get install chromium-headless-shell, then make again."
  exit 1
fi
say "installing Chromium"
export DEBIAN_FRONTEND=noninteractive
"${as[@]}" apt-get update -qq || [ -x $whole ]
"${as[@]}" apt-get install -y -qq --no-install-recommends chromium-headless-shell >/dev/null ||
  "${as[@]}" apt-get install -y -qq --no-install-recommends chromium >/dev/null || true
[ -x $shell ] || [ -x $whole ] || { say "no package brought $shell or $whole; install one by hand."; exit 1; }
