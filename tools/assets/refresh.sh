#!/usr/bin/env bash
# Copies the browser assets out of their npm packages into internal/web/page,
# with their licences. Run it only to change a version; the copies are committed
# and the application needs no network.
set -euo pipefail
cd "$(dirname "$0")/../.."
out=internal/web/page/vendor
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
packages=(
  htmx.org@4.0.1
  bootstrap@5.3.9
  @fontsource-variable/fraunces@5.3.0
  @fontsource-variable/figtree@5.3.0
  @fontsource/noto-music@5.3.0
)
# Only used here, to cut the accidentals out of Noto Music.
makers=(opentype.js@1.3.4 wawoff2@2.0.1)
(cd "$work" && npm init -y >/dev/null && npm install --no-audit --no-fund --ignore-scripts "${packages[@]}" "${makers[@]}" >/dev/null)
m=$work/node_modules
rm -rf "$out" && mkdir -p "$out"
cp "$m/htmx.org/dist/htmx.min.js" "$out/htmx.min.js"
cp "$m/htmx.org/LICENSE" "$out/htmx.LICENSE"
# The source maps are not shipped, so their addresses go too.
sed '/^\/\*# sourceMappingURL/d' "$m/bootstrap/dist/css/bootstrap.min.css" > "$out/bootstrap.min.css"
sed '/^\/\/# sourceMappingURL/d' "$m/bootstrap/dist/js/bootstrap.bundle.min.js" > "$out/bootstrap.bundle.min.js"
cp "$m/bootstrap/LICENSE" "$out/bootstrap.LICENSE"
cp "$m/@fontsource-variable/fraunces/files/fraunces-latin-opsz-normal.woff2" "$out/fraunces.woff2"
cp "$m/@fontsource-variable/fraunces/LICENSE" "$out/fraunces.LICENSE"
cp "$m/@fontsource-variable/figtree/files/figtree-latin-wght-normal.woff2" "$out/figtree.woff2"
cp "$m/@fontsource-variable/figtree/LICENSE" "$out/figtree.LICENSE"
cp tools/assets/accidentals.cjs "$work/"
(cd "$work" && node accidentals.cjs "$m/@fontsource/noto-music/files/noto-music-music-400-normal.woff" accidentals.woff2)
cp "$work/accidentals.woff2" "$out/accidentals.woff2"
cp "$m/@fontsource/noto-music/LICENSE" "$out/noto-music.LICENSE"
printf '%s\n' "${packages[@]}" > "$out/VERSIONS"

# The accessibility checks of the browser tests, not shipped with the application.
(cd "$work" && npm install --no-audit --no-fund --ignore-scripts axe-core@4.14.1 >/dev/null)
mkdir -p e2e/testdata
cp "$m/axe-core/axe.min.js" e2e/testdata/axe.min.js
cp "$m/axe-core/LICENSE" e2e/testdata/axe.LICENSE
