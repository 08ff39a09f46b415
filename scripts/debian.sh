#!/usr/bin/env bash
# Builds a Debian package of Young Tremor in dist/, with an environment of its own inside: scripts/debian.sh [FOLDER]
# It belongs to the Python of the system it is built on; needs dpkg-deb, and a pip that reaches the packages.
set -euo pipefail
unset PYTHONPATH PYTHONHOME
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
out="$(realpath -m "${1:-$here/dist}")"
python="${PYTHON:-/usr/bin/python3}"
pip=("${PIP_PYTHON:-$here/.venv/bin/python}" -m pip --disable-pip-version-check -q)
stage="$(mktemp -d)"
trap 'rm -rf "$stage"' EXIT
root="$stage/root" lib="$stage/root/usr/lib/young-tremor"
version="$(sed -n 's/^__version__ = "\(.*\)"/\1/p' "$here/src/young_tremor/__init__.py")"
minor="$("$python" -c 'import sys; print(sys.version_info.minor)')"

mkdir -p "$root/usr/bin" "$lib" "$out"
"$python" -m venv --without-pip "$lib"
mkdir "$stage/source"
cp -r "$here"/{src,setup.py,pyproject.toml,README.md,LICENSE} "$stage/source/"
rm -f "$stage/source/src/young_tremor/kernels/_kernels.so"  # of this checkout
rm -rf "$stage"/source/src/*.egg-info
find "$stage/source" -name __pycache__ -type d -prune -exec rm -rf {} +
"${pip[@]}" wheel --no-deps -w "$stage/wheel" "$stage/source"
# what is pinned in requirements/app.txt; compiled when it is installed
"${pip[@]}" --python "$lib/bin/python" install --no-compile -r "$here/requirements/app.txt" "$stage"/wheel/*.whl
site="$(echo "$lib"/lib/python3.*/site-packages)"

# what the window does not use of Qt, and tests of libraries
for each in Designer Help Qml Quick QuickControls2 QuickTest QuickWidgets Sql UiTools PrintSupport OpenGL OpenGLWidgets Xml Concurrent; do
  rm -f "$site/PySide6/Qt$each.abi3.so" "$site"/PySide6/Qt/lib/libQt6"$each".so.6
done
find "$site/PySide6/Qt/translations" -type f ! -name "qtbase_*" -delete
rm -rf "$site"/PySide6/Qt/{qml,libexec,metatypes,modules} "$site"/PySide6/{examples,glue,include,typesystems,scripts,doc} \
  "$site"/PySide6/{designer,assistant,linguist,lrelease,lupdate,qmlformat,qmllint,qmlls,balsam,balsamui,svgtoqml} \
  "$site"/PySide6/Qt/lib/libQt6{Quick,Qml,Designer,Labs,ShaderTools,UiTools}* \
  "$site"/PySide6/Qt/plugins/{sqldrivers,qmltooling,designer,qmlls,qmllint}
find "$site" -name '*.pyi' -path '*PySide6*' -delete
find "$site" -type d -name tests \( -path '*/numpy/*' -o -path '*/scipy/*' -o -path '*/opentimelineio/*' \) -prune -exec rm -rf {} +
find "$lib" -name __pycache__ -type d -prune -exec rm -rf {} +
find "$site" -name '*.so*' -type f -exec chmod 644 {} +
find "$lib/bin" -type f -delete  # they name the folder it was built in

cat > "$root/usr/bin/young-tremor" <<'LAUNCH'
#!/bin/sh
# wherever /usr is, its own environment stands beside it
lib="$(dirname "$(dirname "$(readlink -f "$0")")")/lib/young-tremor"
exec "$lib/bin/python" -I -m young_tremor "$@"
LAUNCH
chmod 755 "$root/usr/bin/young-tremor"
PYTHONDONTWRITEBYTECODE=1 "$root/usr/bin/young-tremor" desktop --to "$root/usr/share" --command young-tremor > /dev/null
mv "$root/usr/share/zsh/site-functions" "$root/usr/share/zsh/vendor-completions"
gzip -9n "$root/usr/share/man/man1/young-tremor.1"
install -Dm644 "$here/LICENSE" "$root/usr/share/doc/young-tremor/copyright"
cat "$site/young_tremor/assets/licences.txt" >> "$root/usr/share/doc/young-tremor/copyright"
{ echo "young-tremor ($version) stable; urgency=low"; echo; echo "  * See CHANGELOG.md of the source."; echo
  echo " -- The Young Tremor authors <authors@youngtremor.example>  $(date -R -d "@${SOURCE_DATE_EPOCH:-$(stat -c %Y "$here/CHANGELOG.md")}")"; } \
  | gzip -9n > "$root/usr/share/doc/young-tremor/changelog.gz"

mkdir "$root/DEBIAN"
cat > "$root/DEBIAN/control" <<CONTROL
Package: young-tremor
Version: $version
Architecture: $(dpkg --print-architecture)
Maintainer: The Young Tremor authors <authors@youngtremor.example>
Installed-Size: $(du -sk "$root/usr" | cut -f1)
Depends: python3 (>= 3.$minor), python3 (<< 3.$((minor + 1))), libc6, libgl1, libegl1, libopengl0, libxkbcommon0, libxkbcommon-x11-0,
 libdbus-1-3, libfontconfig1, libfreetype6, libglib2.0-0, libx11-6, libx11-xcb1, libxcb-cursor0, libxcb-icccm4, libxcb-image0,
 libxcb-keysyms1, libxcb-randr0, libxcb-render-util0, libxcb-shape0, libxcb-shm0, libxcb-sync1, libxcb-util1, libxcb-xfixes0,
 libxcb-xkb1, libwayland-client0
Recommends: xdg-desktop-portal, systemd
Section: video
Priority: optional
Homepage: https://youngtremor.example/
Description: handheld and impact shake for locked-off footage
 Makes a locked-off shot, or a graphic, feel as if a hand held the camera, or as
 if something just hit the ground beside it: drift, blows, measured motion, the
 least crop that covers every frame, motion blur, titles, sound, deliveries.
CONTROL
cat > "$root/DEBIAN/postinst" <<'POST'
#!/bin/sh
set -e
# compiled once, so that it starts quickly for everybody
if [ "$1" = configure ]; then
  lib="${DPKG_ROOT:-}/usr/lib/young-tremor"
  "$lib/bin/python" -I -m compileall -q -j 0 "$lib/lib" > /dev/null 2>&1 || true
fi
POST
cat > "$root/DEBIAN/prerm" <<'PRE'
#!/bin/sh
set -e
find "${DPKG_ROOT:-}/usr/lib/young-tremor" -name __pycache__ -type d -prune -exec rm -rf {} + 2> /dev/null || true
PRE
chmod 755 "$root/DEBIAN/postinst" "$root/DEBIAN/prerm"
chmod -R u=rwX,go=rX "$root"
dpkg-deb --root-owner-group -Zzstd -z"${LEVEL:-10}" --build "$root" "$out" > /dev/null
echo "$out/young-tremor_${version}_$(dpkg --print-architecture).deb"
