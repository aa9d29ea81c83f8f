# Shared by start, test and bench: says what it does, finds what it needs, runs a private PostgreSQL on loopback.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1

say() { printf '· %s\n' "$*"; }
fail() { printf 'Cannot go on: %s\n' "$*" >&2; exit 1; }

# quietly WHAT COMMAND…: shows what a command printed only where it fails.
quietly() {
  local what=$1 log; shift
  log=$(mktemp)
  if ! "$@" > "$log" 2>&1; then cat "$log" >&2; rm -f "$log"; fail "$what"; fi
  rm -f "$log"
}

as_admin() {
  if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null && sudo -n true 2>/dev/null; then sudo -n "$@"; else return 1; fi
}

# need_package COMMAND-OR-PATH PACKAGE: installs a Debian package where its program is missing.
need_package() {
  if command -v "$1" >/dev/null 2>&1 || [ -x "$1" ]; then return; fi
  say "installing $2 from Debian's packages"
  as_admin env DEBIAN_FRONTEND=noninteractive sh -c "apt-get update -qq && apt-get install -y -qq --no-install-recommends $2" >/dev/null 2>&1 \
    || fail "$2 is missing and could not be installed; run: apt-get install $2"
}

# want_package COMMAND PACKAGE WITHOUT: the same where it can be done without.
want_package() {
  if command -v "$1" >/dev/null 2>&1; then return; fi
  (need_package "$1" "$2") 2>/dev/null || say "$2 could not be installed: $3"
}

# What hostile picture files are drawn in.
want_sandbox() { want_package bwrap bubblewrap "picture files are drawn without a sandbox, only with bounds on time and memory"; }

need_tools() {
  command -v dotnet >/dev/null || fail "the .NET SDK 10 is missing (dotnet is not on the PATH)."
  [ "$(dotnet --version | cut -d. -f1)" -ge 10 ] || fail "the .NET SDK is $(dotnet --version); 10 or newer is needed."
  command -v npm >/dev/null || fail "Node.js 20 with npm is missing."
  [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || fail "Node.js is $(node -v); 20 or newer is needed."
  need_postgres
}

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }
need_postgres() { [ -x "$(pg_bin)/postgres" ] || need_package /nonexistent/postgres postgresql; [ -x "$(pg_bin)/postgres" ] || fail "PostgreSQL's server is not where Debian puts it."; }

free_port() { node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{console.log(`${s.address().port}`);s.close()})'; }
port_is_free() { node -e 'const s=require("net").createServer().once("error",()=>process.exit(1)).listen(+process.argv[1],"127.0.0.1",()=>s.close())' "$1"; }

# Where this checkout keeps its data: outside it, as PostgreSQL runs under another name where the caller is root.
state_folder() {
  local key; key=$(printf %s "$root" | cksum | cut -d' ' -f1)
  if [ -n "${GOLDEN_RULE_STATE:-}" ]; then echo "$GOLDEN_RULE_STATE"
  elif [ "$(id -u)" = 0 ]; then echo "/var/lib/golden-rule/$key"
  else echo "${XDG_STATE_HOME:-$HOME/.local/state}/golden-rule/$key"; fi
}

# PostgreSQL's server refuses to run as root.
pg() { if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- env LC_ALL=C "$@"); else env LC_ALL=C "$@"; fi; }

# start_postgres FOLDER: starts the server kept there, makes it first where needed; sets $connection.
start_postgres() {
  local folder=$1 bin port; bin=$(pg_bin)
  mkdir -p "$folder"
  if [ "$(id -u)" = 0 ]; then chmod 711 "$folder"; fi
  if [ ! -s "$folder/password" ]; then (umask 077; node -p 'require("crypto").randomBytes(18).toString("hex")' > "$folder/password"); fi
  mkdir -p "$folder/pg"
  if [ "$(id -u)" = 0 ]; then chown postgres "$folder/pg" "$folder/password"; fi
  if [ ! -s "$folder/pg/data/PG_VERSION" ]; then
    say "making a private PostgreSQL"
    rm -rf "$folder/pg/data"
    pg "$bin/initdb" -D "$folder/pg/data" -U golden_rule -A scram-sha-256 --pwfile="$folder/password" -E UTF8 --locale=C >/dev/null
  fi
  if ! pg "$bin/pg_ctl" -D "$folder/pg/data" status >/dev/null 2>&1; then
    port=$(cat "$folder/port" 2>/dev/null || true)
    if [ -z "$port" ] || ! port_is_free "$port"; then port=$(free_port); echo "$port" > "$folder/port"; fi
    pg "$bin/pg_ctl" -D "$folder/pg/data" -w -l "$folder/pg/log" -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories='' ${2:-}" start >/dev/null \
      || fail "PostgreSQL did not start; see $folder/pg/log"
  fi
  port=$(cat "$folder/port")
  connection="Host=127.0.0.1;Port=$port;Username=golden_rule;Password=$(cat "$folder/password");Database=golden_rule"
  export PGPASSWORD; PGPASSWORD=$(cat "$folder/password")
  psql_url="postgresql://golden_rule@127.0.0.1:$port"
  "$bin/psql" -q "$psql_url/postgres" -tAc "select 1 from pg_database where datname='golden_rule'" | grep -q 1 || "$bin/psql" -q "$psql_url/postgres" -c "create database golden_rule" >/dev/null
}

stop_postgres() { pg "$(pg_bin)/pg_ctl" -D "$1/pg/data" -m fast stop >/dev/null 2>&1 || true; }

# newer_than STAMP PATH…: whether anything there changed since the stamp was set.
newer_than() { local stamp=$1; shift; [ ! -e "$stamp" ] || [ -n "$(find "$@" \( -name node_modules -o -name bin -o -name obj -o -name wwwroot \) -prune -o -type f -newer "$stamp" -print -quit 2>/dev/null)" ]; }

install_npm() { # FOLDER
  if newer_than "$1/node_modules/.installed" "$1/package.json" "$1/package-lock.json"; then
    say "installing npm packages for ${1#"$root"/}"
    quietly "npm ci failed in $1" npm --prefix "$1" ci --no-audit --no-fund --no-update-notifier --ignore-scripts
    touch "$1/node_modules/.installed"
  fi
}

build_web() {
  install_npm "$root/src/web"
  if newer_than "$root/src/GoldenRule.Server/wwwroot/index.html" "$root/src/web" "$root/docs/glossary.md"; then
    say "building the front end"
    quietly "the front end does not build" npm --prefix "$root/src/web" run build
  fi
}

server_dll="$root/src/GoldenRule.Server/bin/Release/net10.0/GoldenRule.Server.dll"
build_server() {
  if newer_than "$server_dll" "$root/src/GoldenRule.Core" "$root/src/GoldenRule.Data" "$root/src/GoldenRule.PictureWorker" "$root/src/GoldenRule.Server" "$root/Directory.Packages.props" "$root/Directory.Build.props"; then
    say "building the server"
    quietly "the server does not build" dotnet build "$root/src/GoldenRule.Server" -c Release -v quiet --nologo
    touch "$server_dll"
  fi
}

# The demo that is loaded into an empty database, as $demo says; "none": none.
demo_folder() { if [ "${demo:-}" = none ]; then echo ""; else echo "${demo:-$root/demo/larkfell}"; fi; }

# start_server PORT LOG: starts it in the background, sets $server, waits until it answers.
start_server() {
  # Without the delay, what runs often is compiled well at once, not only after the first pause.
  DOTNET_TC_CallCountingDelayMs=0 ConnectionStrings__GoldenRule="$connection" Demo__Folder="$(demo_folder)" \
    dotnet "$server_dll" --urls "http://127.0.0.1:$1" --contentRoot "$root/src/GoldenRule.Server" > "$2" 2>&1 &
  server=$!
  # Minutes, as long as it lives: how soon it has loaded the demo is the machine's.
  for _ in $(seq 1500); do
    if ! kill -0 "$server" 2>/dev/null; then tail -n 20 "$2" >&2; fail "the server ended while starting; its words stand above"; fi
    if node -e 'fetch(process.argv[1]).then(r=>process.exit(r.ok?0:1),()=>process.exit(1))' "http://127.0.0.1:$1/health/ready"; then return; fi
    sleep 0.2
  done
  fail "the server does not answer; see $2"
}

# start_mailbox LOG: starts the simulated mailbox, sets $mailbox, and has the server send there and show it.
start_mailbox() {
  local smtp http
  install_npm "$root/standins/mailbox"
  smtp=$(free_port) http=$(free_port)
  export Mail__Host=127.0.0.1 Mail__Port="$smtp" Mail__User=golden-rule Mail__CheckCertificate=false Mailroom="http://127.0.0.1:$http"
  export Mail__From="Golden Rule <golden-rule@larkfell.example.org>"
  export Mail__Password; Mail__Password=$(node -p 'require("crypto").randomBytes(18).toString("hex")')
  MAILBOX_PASSWORD="$Mail__Password" node "$root/standins/mailbox/start.mjs" "$smtp" "$http" > "$1" 2>&1 &
  mailbox=$!
}

# start_platform STATE LOG: starts the simulated sending platform, sets $platform, and has the demo know it. Its token stays the same.
start_platform() {
  local port
  install_npm "$root/standins/platform"
  if [ ! -s "$1/platform-token" ]; then (umask 077; node -p 'require("crypto").randomBytes(18).toString("hex")' > "$1/platform-token"); fi
  port=$(cat "$1/platform-port" 2>/dev/null || true)
  if [ -z "$port" ] || ! port_is_free "$port"; then port=$(free_port); echo "$port" > "$1/platform-port"; fi
  export Demo__Platform__Address="http://127.0.0.1:$port/v1" Demo__Platform__Token Outbound__Allow__0=127.0.0.1/32
  Demo__Platform__Token=$(cat "$1/platform-token")
  PLATFORM_TOKEN="$Demo__Platform__Token" node "$root/standins/platform/start.mjs" "$port" > "$2" 2>&1 &
  platform=$!
}

# fill_library EMAILS: makes a large library out of the demo that is in the database, and says how far it is.
fill_library() {
  say "filling the library up to $1 emails"
  quietly "the generator does not build" dotnet build "$root/tests/scale" -c Release -v quiet --nologo
  dotnet "$root/tests/scale/bin/Release/net10.0/GoldenRule.Scale.dll" "$connection" "$1"
}
