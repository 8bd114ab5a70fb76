# Shared by ./start and ./test: checks tools and builds what is missing or out of date.

say() { printf '%s\n' "$*"; }
fail() { printf '%s\n' "$*" >&2; exit 1; }

need_tools() {
  command -v dotnet >/dev/null 2>&1 || fail "dotnet is missing: install the .NET 10 SDK, then run this again."
  dotnet --list-sdks | grep -q '^10\.' || fail "The .NET 10 SDK is missing (found: $(dotnet --list-sdks | tr '\n' ' ')). Install it, then run this again."
  command -v node >/dev/null 2>&1 || fail "node is missing: install Node.js 20 or newer, then run this again."
  [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || fail "Node.js $(node --version) is too old: version 20 or newer is needed."
  command -v npm >/dev/null 2>&1 || fail "npm is missing: it comes with Node.js; install it, then run this again."
  command -v git >/dev/null 2>&1 || fail "git is missing: install it, then run this again."
}

# stale STAMP PATH…: true when the stamp is missing or a file below the paths is newer.
stale() {
  local stamp=$1
  shift
  [ -e "$stamp" ] || return 0
  [ -n "$(find "$@" -type d \( -name bin -o -name obj -o -name node_modules -o -name wwwroot \) -prune -o -type f -newer "$stamp" -print -quit 2>/dev/null)" ]
}

export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1
stamps=artifacts/stamps
mkdir -p "$stamps"

install_packages() {
  if stale "$stamps/npm" package.json package-lock.json web/package.json e2e/package.json tools/api-types/package.json || [ ! -d node_modules ]; then
    say "Installing the page's packages …"
    npm ci --loglevel=error || fail "npm ci failed; its words are above."
    touch "$stamps/npm"
  fi
}

# The page's packages and the API's types, as far as they are out of date.
build_types() {
  install_packages
  if stale "$stamps/server" src Directory.Build.props Directory.Packages.props global.json; then
    say "Building the server …"
    dotnet build src/DashSprout.Server -c Release -v quiet -clp:NoSummary || fail "The server does not build; the errors are above."
    touch "$stamps/server"
  fi
  [ -e web/src/api/schema.d.ts ] && [ ! openapi/dash-sprout.json -nt web/src/api/schema.d.ts ] || npm run --silent types || fail "The API's types could not be generated."
}

# The server, the API's types made from its document, the page, and all of it published to artifacts/server.
build_all() {
  build_types
  if stale "$stamps/page" openapi web package-lock.json; then
    say "Building the page …"
    npm run --silent build || fail "The page does not build; the errors are above."
    touch "$stamps/page"
    rm -f "$stamps/published"
  fi
  if [ ! -e "$stamps/published" ] || [ "$stamps/server" -nt "$stamps/published" ]; then
    say "Putting the program together …"
    rm -rf artifacts/server
    dotnet publish src/DashSprout.Server -c Release -o artifacts/server --no-restore -v quiet -clp:NoSummary -p:OpenApiGenerateDocuments=false || fail "Publishing failed; the errors are above."
    touch "$stamps/published"
  fi
}
