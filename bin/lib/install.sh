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
  node -e 'process.exit(+process.versions.node.split(".")[0] >= 20 ? 0 : 1)' || stop "Node.js 20 or newer is needed, this is $(node --version)."
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

build_server() { node tools/build-server.mjs || stop "the server could not be built; see above."; }
build_client() { node tools/build-client.mjs || stop "the client could not be built; see above."; }
