# Shared by the commands: what the machine must have, and what must be built. Sourced, not run.

# Debian keeps servers where a user's PATH does not look.
export PATH="$PATH:/usr/sbin:/sbin"

say() { printf '%s\n' "$*" >&2; }

# Installs those of the named Debian packages that are missing; each is given as PROGRAM=PACKAGE.
need() {
  local missing=() pair
  for pair in "$@"; do command -v "${pair%%=*}" >/dev/null 2>&1 || missing+=("${pair##*=}"); done
  [ ${#missing[@]} -eq 0 ] && return 0
  install_packages "${missing[@]}"
}

install_packages() {
  local root=() output
  if ! command -v apt-get >/dev/null 2>&1; then
    say "These programs are missing, and this is no Debian: install the packages $* by hand."; exit 1
  fi
  if [ "$(id -u)" -ne 0 ]; then
    if command -v sudo >/dev/null 2>&1; then root=(sudo); else say "These packages are missing: $*. Install them as root: apt-get install $*"; exit 1; fi
  fi
  say "Installing from Debian: $*"
  # A server that Debian starts on installing is not wanted: the program runs one of its own.
  output=$("${root[@]}" env DEBIAN_FRONTEND=noninteractive sh -c 'apt-get update -q && apt-get install -y -q --no-install-recommends "$@"' sh "$@" 2>&1) ||
    { say "$output"; say "The packages could not be installed. Try by hand: apt-get install $*"; exit 1; }
}

check_node() {
  command -v node >/dev/null 2>&1 || { say "Node.js is missing: version 20.19 or later is needed."; exit 1; }
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' ||
    { say "Node.js $(node --version) is too old: version 20.19 or later is needed."; exit 1; }
}

# Sum of everything that a step depends on; the step is done again when it changes.
sum_of() { git -C "$ROOT" ls-files -z --cached --others --exclude-standard -- "$@" 2>/dev/null | (cd "$ROOT" && sort -z | xargs -0 sha256sum 2>/dev/null) | sha256sum | cut -d' ' -f1; }

done_for() { [ -f "$ROOT/.state/$1" ] && [ "$(cat "$ROOT/.state/$1")" = "$2" ]; }
mark_done() { mkdir -p "$ROOT/.state"; printf '%s' "$2" > "$ROOT/.state/$1"; }

install_modules() {
  local sum; sum=$(sha256sum "$ROOT/package-lock.json" | cut -d' ' -f1)
  if done_for modules "$sum" && [ -d "$ROOT/node_modules" ]; then return; fi
  say "Installing packages"
  (cd "$ROOT" && npm ci --no-audit --no-fund --loglevel=error >&2) || { say "The packages could not be installed; the messages above say why."; exit 1; }
  mark_done modules "$sum"
}

sum_of_commands() { sum_of packages package-lock.json tsconfig.base.json; }

# The core and the command line alone. Nothing but the sum is looked at where they are built: the command line starts often.
build_commands() {
  local sum; sum=$(sum_of_commands)
  if done_for commands "$sum" && [ -f "$ROOT/packages/cli/dist/main.js" ] && [ -d "$ROOT/node_modules" ]; then return; fi
  mkdir -p "$ROOT/.state"
  check_node
  install_modules
  say "Building"
  (cd "$ROOT" && npm run -s build -w @abyssal/core && npm run -s build -w @abyssal/cli) >"$ROOT/.state/build.log" 2>&1 || { cat "$ROOT/.state/build.log" >&2; say "The build failed."; exit 1; }
  mark_done commands "$sum"
}

build() {
  local sum; sum=$(sum_of packages apps package-lock.json tsconfig.base.json)
  if done_for build "$sum" && [ -f "$ROOT/apps/web/dist/index.html" ] && [ -f "$ROOT/apps/server/dist/start/main.js" ]; then return; fi
  say "Building"
  (cd "$ROOT" && npm run -s build >"$ROOT/.state/build.log" 2>&1) || { cat "$ROOT/.state/build.log" >&2; say "The build failed."; exit 1; }
  mark_done build "$sum"
  mark_done commands "$(sum_of_commands)"
}
