#!/usr/bin/env bash
# The Python environment in .venv: made where it is missing, brought to the lock where it is not. Argument: the uv to install.
set -euo pipefail
uv="$1"

say() { printf 'mutabilis: %s\n' "$*" >&2; }

python=""
for candidate in python3.11 python3.12 python3.13 python3; do
  if command -v "$candidate" >/dev/null && "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
    python="$candidate"
    break
  fi
done
if [ -z "$python" ]; then
  say "Python 3.11 or newer is needed, and was not found."
  exit 1
fi

if [ ! -x .venv/bin/python ] || ! .venv/bin/python -m pip --version >/dev/null 2>&1; then
  rm -rf .venv
  if ! "$python" -m venv .venv >/dev/null 2>&1; then
    # Debian and Ubuntu keep venv in a package of its own.
    rm -rf .venv
    version=$("$python" -c 'import sys; print(f"{sys.version_info.major}.{sys.version_info.minor}")')
    if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
      apt-get update -qq && apt-get install -y -qq --no-install-recommends "python$version-venv" >/dev/null
      "$python" -m venv .venv
    else
      say "This Python cannot make an environment. Run: sudo apt-get install python$version-venv, then make again."
      exit 1
    fi
  fi
fi

say "installing Python packages"
.venv/bin/python -m pip install -q "$uv"
.venv/bin/uv pip install -q --python .venv/bin/python --require-hashes -r requirements.lock
.venv/bin/uv pip install -q --python .venv/bin/python --no-deps --no-build-isolation -e .
