# Shared by the scripts: what this project needs on a Debian machine, and where it is.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
project=$PWD
data="${ODDSPOOL_DATA:-$project/.data}" # where the demonstration keeps what it has

say() { printf '%s\n' "$*"; }
fail() {
  printf 'oddspool: %s\n' "$*" >&2
  exit 1
}

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else
    fail "this must be run once as root: $*"
  fi
}

# need PACKAGE... installs the Debian packages that are missing.
need() {
  local missing=() package
  for package in "$@"; do
    [ "$(dpkg-query -W -f '${db:Status-Status}' "$package" 2>/dev/null)" = installed ] || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  say "Installing ${missing[*]}"
  # A fresh machine often installs something by itself at first: its lock is waited for.
  as_root apt-get -o DPkg::Lock::Timeout=600 update -qq || as_root apt-get -o DPkg::Lock::Timeout=600 update -qq
  as_root env DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=600 install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

# Go and Node.js: taken from where they are, else from Debian.
need_go() {
  [ -x /usr/local/go/bin/go ] && PATH="/usr/local/go/bin:$PATH"
  command -v go >/dev/null || need golang-go
  export PATH
  go version >/dev/null || fail "Go 1.26 or later is needed"
}
need_node() {
  command -v npm >/dev/null || need nodejs npm
  case "$(node --version)" in
    v2[0-9].* | v[3-9][0-9].*) ;;
    *) fail "Node.js 20 or later is needed; this is $(node --version)" ;;
  esac
}

# modules FOLDER installs a folder's npm packages when its lock file is newer than they are.
modules() {
  [ "$1/node_modules/.package-lock.json" -nt "$1/package-lock.json" ] && return
  say "Installing npm packages of $1"
  (cd "$1" && npm ci --no-audit --no-fund --loglevel=error)
  touch "$1/node_modules/.package-lock.json"
}

# core_module builds the core for the page, and leaves it alone when nothing of it changed.
core_module() {
  local folder=web/src/core
  GOOS=js GOARCH=wasm go build -trimpath -ldflags="-s -w" -o "$folder/core.wasm.new" ./cmd/oddcore
  cp "$(go env GOROOT)/lib/wasm/wasm_exec.js" "$folder/wasm_exec.js.new"
  local file
  for file in core.wasm wasm_exec.js; do
    if cmp -s "$folder/$file.new" "$folder/$file"; then rm "$folder/$file.new"; else mv "$folder/$file.new" "$folder/$file"; fi
  done
}

# typefaces puts font files for further scripts, and one of readers' letters, beside the program; it runs without them too.
typefaces() {
  need fonts-droid-fallback fonts-nanum fonts-tlwg-waree-ttf fonts-ocr-b
  mkdir -p bin/typefaces
  cp -u /usr/share/fonts/truetype/droid/DroidSansFallbackFull.ttf /usr/share/fonts/truetype/tlwg/Waree.ttf \
    /usr/share/fonts/truetype/tlwg/Waree-Bold.ttf /usr/share/fonts/truetype/nanum/NanumGothic.ttf \
    /usr/share/fonts/truetype/nanum/NanumGothicBold.ttf /usr/share/fonts/opentype/ocr-b/OCRB.otf bin/typefaces/
}

# build makes bin/oddspool with the interface in it.
build() {
  need_go
  need_node
  modules web
  core_module
  if [ ! -f web/dist/index.html ] || [ -n "$(find web/src web/public web/index.html web/package-lock.json web/vite.config.ts -newer web/dist/index.html -print -quit)" ]; then
    say "Building the interface"
    (cd web && npm run --silent build -- --logLevel warn)
    gzip -9 -f web/dist/assets/*.wasm # it is served as it lies
  fi
  typefaces
  go build -o bin/oddspool ./cmd/oddspool
}

postgres_bin() {
  local bins=(/usr/lib/postgresql/*/bin)
  printf '%s' "${bins[-1]}"
}

# as_postgres runs a command as whom PostgreSQL may run: not as root.
as_postgres() {
  if [ "$(id -u)" = 0 ]; then (cd / && exec runuser -u postgres -- "$@"); else "$@"; fi
}

# free_port WANTED prints it, or the next free one on loopback.
free_port() {
  local port=$1
  while (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null; do port=$((port + 1)); done
  printf '%s' "$port"
}
