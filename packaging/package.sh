#!/usr/bin/env bash
# Makes what a person installs: a folder with a runtime of its own, the same as .tar.gz, and a .deb where dpkg-deb is there.
# package.sh JARS OUT
set -euo pipefail

here=$(cd "$(dirname "${BASH_SOURCE[0]}")" && pwd)
jars=$1
mkdir -p "$2"
out=$(cd "$2" && pwd)
. "$here/start.sh"

say() { printf '%s\n' "$*" >&2; }

need() {
  command -v "$1" >/dev/null 2>&1 || { say "A package needs $1, which a JDK of version 17 or newer has. Install one."; exit 2; }
}

need jlink
version=$(sed -n 's:.*<version>\(.*\)</version>.*:\1:p' "$here/../pom.xml" | head -n 1)
version=${version%-SNAPSHOT}
case "$(uname -m)" in
  x86_64) machine=x64 deb=amd64 ;;
  aarch64 | arm64) machine=aarch64 deb=arm64 ;;
  *) machine=$(uname -m) deb=$machine ;;
esac
system=$(uname -s | tr '[:upper:]' '[:lower:]')

# What the program and its libraries use of the JDK, by jdeps; the last line is what is only found at run time: curves of TLS,
# file systems in archives, character sets of old services, logins by tickets.
modules=java.base,java.compiler,java.desktop,java.instrument,java.management,java.management.rmi,java.naming,java.net.http
modules=$modules,java.scripting,java.security.jgss,java.security.sasl,java.sql,java.xml.crypto,jdk.httpserver,jdk.jfr
modules=$modules,jdk.management,jdk.net,jdk.unsupported,jdk.xml.dom
modules=$modules,jdk.crypto.ec,jdk.zipfs,jdk.charsets,jdk.security.jgss,jdk.security.auth

image=$out/mockbell
say "Making $image…"
rm -rf "$image"
mkdir -p "$image/bin" "$image/lib"
jlink --add-modules "$modules" --strip-debug --no-man-pages --no-header-files --compress=2 --output "$image/runtime"
cp "$jars"/*.jar "$image/lib/"
cp "$here/start.sh" "$image/"
cp "$here/mockbell.svg" "$image/"
install -m 755 "$here/mockbell" "$here/mockbell-archive" "$image/bin/"

tar="$out/mockbell-$version-$system-$machine.tar.gz"
say "Making $tar…"
tar -C "$out" -czf "$tar" mockbell

if [ "$system" = linux ] && command -v dpkg-deb >/dev/null 2>&1; then
  file="$out/mockbell_${version}_$deb.deb"
  say "Making $file…"
  root=$out/deb
  rm -rf "$root"
  mkdir -p "$root/DEBIAN" "$root/opt" "$root/usr/bin" "$root/usr/share/applications" "$root/usr/share/mime/packages" \
    "$root/usr/share/icons/hicolor/scalable/apps"
  cp -a "$image" "$root/opt/mockbell"
  ln -s /opt/mockbell/bin/mockbell "$root/usr/bin/mockbell"
  cp "$here/mockbell.svg" "$root/usr/share/icons/hicolor/scalable/apps/mockbell.svg"
  cp "$here/mockbell.desktop" "$root/usr/share/applications/mockbell.desktop"
  cp "$here/mockbell-project.xml" "$root/usr/share/mime/packages/mockbell-project.xml"
  cat >"$root/DEBIAN/control" <<CONTROL
Package: mockbell
Version: $version
Architecture: $deb
Maintainer: Mock Bell <mockbell@northfell.example>
Section: devel
Priority: optional
Installed-Size: $(du -sk "$root/opt" | cut -f1)
Depends: bash, libc6, zlib1g
Recommends: libgtk-3-0t64 | libgtk-3-0, libgl1, libxtst6
Description: Calls, checks, mocks, watches and loads web services described by a WSDL
 A window and a command line over one project folder. It has a runtime of its own.
CONTROL
  # menus and kinds of files are known at once; the archive is made where it is used
  cat >"$root/DEBIAN/postinst" <<'POSTINST'
#!/bin/sh
set -e
case "$1" in
  configure)
    echo 'Mock Bell prepares to start quickly; that takes a minute…'
    /opt/mockbell/bin/mockbell-archive || true
    ;;
  remove | purge | upgrade) rm -f /opt/mockbell/mockbell.jsa /opt/mockbell/mockbell.jsa.at ;;
esac
for tool in "update-desktop-database /usr/share/applications" "update-mime-database /usr/share/mime"; do
  command -v "${tool%% *}" >/dev/null 2>&1 && $tool >/dev/null 2>&1 || true
done
POSTINST
  cp "$root/DEBIAN/postinst" "$root/DEBIAN/postrm"
  chmod 755 "$root/DEBIAN/postinst" "$root/DEBIAN/postrm"
  dpkg-deb --root-owner-group -Zgzip --build "$root" "$file" >/dev/null
  rm -rf "$root"
fi
# the folder is ready where it is
"$image/bin/mockbell-archive"
say "Done: $out"
