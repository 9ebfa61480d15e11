# Shared by ./run, ./test and ./bench: puts the Python and web parts in place and remembers what it did in .stamps/.

say() { printf '%s\n' "$*"; }

need() {
  command -v "$1" >/dev/null 2>&1 || { say "Paleta needs $2. Install it and run this again."; exit 1; }
}

setup_python() {
  need python3 "Python 3.11 or newer"
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { say "Paleta needs Python 3.11 or newer; this is $(python3 -V)."; exit 1; }
  local stamp=".stamps/python-$1-$(cksum <"$1" | tr -d ' ')"
  [ -e "$stamp" ] && [ -x .venv/bin/python ] && return
  say "Setting up Python packages ($1). This takes a minute or two the first time."
  if [ ! -x .venv/bin/python ]; then
    python3 -m venv .venv || { say "Python's venv module is missing. On Debian: apt-get install python3-venv"; exit 1; }
  fi
  .venv/bin/python -m pip install -qq --disable-pip-version-check -r "$1"
  mkdir -p .stamps
  rm -f .stamps/python-"$1"-*
  # The development list holds everything the other one does.
  touch "$stamp"
  [ "$1" = requirements-dev.txt ] && touch ".stamps/python-requirements.txt-$(cksum <requirements.txt | tr -d ' ')"
  return 0
}

# The inner loops are compiled once; the first picture and the first plan would wait for it otherwise.
setup_loops() {
  local stamp=".stamps/loops-$(cat paleta/compiling.py paleta/order/columns.py paleta/*/compiled/*.py | cksum | tr -d ' ')"
  [ -e "$stamp" ] && return
  say "Compiling the inner loops. This takes half a minute the first time."
  .venv/bin/python -c "from paleta import card, impression, light, order; [part.warm_up() for part in (card, impression, light, order)]"
  rm -f .stamps/loops-*
  touch "$stamp"
}

setup_node_modules() {
  need node "Node 20 or newer"
  need npm "npm"
  local stamp=".stamps/npm-$(cksum <web/package-lock.json | tr -d ' ')"
  [ -e "$stamp" ] && [ -d web/node_modules ] && return
  say "Setting up the web packages."
  (cd web && npm ci --no-audit --no-fund --loglevel=error)
  mkdir -p .stamps
  rm -f .stamps/npm-*
  touch "$stamp"
}

web_sum() {
  find web/src web/public web/index.html web/vite.config.ts web/package-lock.json -type f -print0 | sort -z | xargs -0 cksum | cksum | tr -d ' '
}

setup_web() {
  local stamp=".stamps/web-$(web_sum)"
  [ -e "$stamp" ] && [ -e web/dist/index.html ] && return
  setup_node_modules
  say "Building the page."
  (cd web && npm run --silent build -- --logLevel warn)
  mkdir -p .stamps
  rm -f .stamps/web-*
  touch "$stamp"
}
