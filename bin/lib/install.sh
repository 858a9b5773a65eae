# What a fresh Debian machine lacks; sourced by the commands of bin/.

say() { printf '%s\n' "$*"; }
stop() { printf 'Winter Bead cannot start: %s\n' "$*" >&2; exit 1; }

as_root() {
  if [ "$(id -u)" -eq 0 ]; then "$@"
  elif command -v sudo >/dev/null && { sudo -n true 2>/dev/null || [ -t 0 ]; }; then sudo "$@"
  else return 126
  fi
}

# need_debian WHAT PACKAGE...: installs packages, or says in one sentence why not.
need_debian() {
  local what=$1 log
  shift
  command -v apt-get >/dev/null || stop "$what is not installed and this is no Debian machine; install it by hand."
  as_root true || stop "$what is not installed and this user has no right to install it; let somebody with sudo run: apt-get install $*"
  say "Installing $what from Debian's packages."
  log=$(mktemp)
  as_root env DEBIAN_FRONTEND=noninteractive apt-get update -qq >"$log" 2>&1 || true
  if ! as_root env DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=120 install -y -qq --no-install-recommends "$@" >>"$log" 2>&1; then
    stop "$what could not be installed: $(grep -E '^E:' "$log" | head -1 || tail -1 "$log")"
  fi
  rm -f "$log"
}

need_node() {
  command -v node >/dev/null || stop "Node.js 20 is not installed."
  local version
  version=$(node --version)
  case "$version" in v20.* | v2[1-9].* | v[3-9]*) ;; *) stop "Node.js 20 or newer is needed, this is $version." ;; esac
}

need_postgres() {
  compgen -G '/usr/lib/postgresql/*/bin/postgres' >/dev/null && return
  # Debian would start a database of its own; ours lives in the data folder.
  local conf=/etc/postgresql-common/createcluster.d/winter-bead.conf
  as_root mkdir -p "${conf%/*}" 2>/dev/null && printf 'create_main_cluster = false\n' | as_root tee "$conf" >/dev/null || true
  need_debian PostgreSQL postgresql
  as_root rm -f "$conf" || true
}

need_chromium() { [ -x /usr/bin/chromium ] || need_debian Chromium chromium; }

need_packages() {
  local stamp=node_modules/.winter-bead-lock sum
  sum=$(sha256sum package-lock.json | cut -d' ' -f1)
  [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$sum" ] && return
  say "Installing the npm packages from the lock file; the first time takes some minutes."
  npm ci --no-audit --no-fund --loglevel=error || stop "the npm packages could not be installed; see above."
  printf '%s' "$sum" >"$stamp"
}

# unchanged STAMP SOURCE...: nothing below these is younger than what was built from it.
unchanged() {
  local stamp=$1
  shift
  [ -f "$stamp" ] && [ -z "$(find "$@" -newer "$stamp" -print -quit)" ]
}

build_server() {
  unchanged server/dist/.sources server/src devices/src demo/src contract/src core/src package-lock.json tools ||
    node tools/build-server.mjs || stop "the server could not be built; see above."
}

build_client() {
  unchanged client/dist/.sources client/app client/data client/features client/forms client/ui client/public contract/src core/src \
    client/app.json client/metro.config.js client/babel.config.js package-lock.json tools ||
    node tools/build-client.mjs || stop "the client could not be built; see above."
}
