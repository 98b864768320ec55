# Sourced by the launcher: an application image with its own Java, the window and the command line.


make_image() {
  command -v jpackage >/dev/null && command -v jlink >/dev/null \
    || fail "jpackage and jlink are missing; they are part of a full Java 17 development kit"
  local type=app-image
  if [ "${1:-}" = --type ]; then
    type=${2:-}
    shift 2 || fail "--type needs a kind, such as deb"
  fi
  local input=$here/target/image-input image=$here/target/image/Flarvo runtime=$here/target/image-runtime fx modules
  rm -rf "$here/target/image" "$input" "$runtime"
  mkdir -p "$input/demo"
  cp "$here"/desktop/target/lib/*.jar "$input/"
  cp -f "$here"/cli/target/lib/*.jar "$input/" # mostly the same
  cp "$here"/{desktop,cli,core}/target/flarvo-*.jar "$input/"
  rm -f "$input"/javafx-*.jar
  cp -r "$here/demo/meridian" "$input/demo/"
  rm -rf "$input/demo/meridian/deliveries"
  cp "$here/docs/dependencies.md" "$here/LICENSE" "$here/NOTICE" "$here/packaging/compiler.json" "$input/"
  # JavaFX is linked into the image's Java: from a module path it costs a tenth of a second at every start. Of each of its
  # jars there is an empty one beside that of the system. The java command stays: both launchers and the decoder of
  # movies run it.
  fx=$(printf '%s:' "$here"/desktop/target/lib/javafx-*-*-*.jar)
  modules=$(java --list-modules | sed 's/@.*//' \
    | grep -Ev '^(java\.se|jdk\.(incubator|internal\.vm|hotspot)\..*|javafx\..*)$' | paste -sd , -)
  jlink --module-path "$fx" --add-modules "$modules,javafx.controls,javafx.graphics" \
    --strip-debug --no-man-pages --no-header-files --output "$runtime" >"$here/target/image.log" 2>&1 \
    || { tail -n 5 "$here/target/image.log" >&2; fail "no Java could be linked for the image"; }
  jpackage --type app-image --name Flarvo --app-version 0.1.0 \
    --input "$input" --main-jar "$(basename "$input"/flarvo-desktop-*.jar)" --main-class flarvo.desktop.Main \
    --runtime-image "$runtime" \
    --dest "$here/target/image" >"$here/target/image.log" 2>&1 || true
  [ -d "$image" ] || { tail -n 5 "$here/target/image.log" >&2; fail "no image was built"; }
  local app=$image/lib/app java=$image/lib/runtime/bin/java
  (cd "$app" && printf '%s\n' flarvo-desktop-*.jar flarvo-core-*.jar \
    $(cd "$here/desktop/target/lib" && printf '%s\n' *.jar | grep -v '^javafx-') | awk '!seen[$0]++') >"$app/window.jars"
  (cd "$app" && printf '%s\n' flarvo-cli-*.jar flarvo-core-*.jar \
    $(cd "$here/cli/target/lib" && printf '%s\n' *.jar) | awk '!seen[$0]++') >"$app/cli.jars"
  date -u +%Y%m%d%H%M%S >"$app/build"
  cp "$here/packaging/flarvo" "$image/bin/flarvo"
  # A menu starts it without files.
  printf '#!/bin/sh\nset -- "$@"\n[ $# = 0 ] || set -- open "$@"\nexec "$(dirname "$(readlink -f "$0")")/flarvo" "$@"\n' \
    >"$image/bin/Flarvo"
  chmod +x "$image/bin/flarvo" "$image/bin/Flarvo"
  say "recording what a start loads"
  "$java" -Xshare:dump >"$here/target/image.log" 2>&1 || true # the runtime's own archive, which jlink leaves out
  record_starts "$app" "$java"
  if [ "$type" != app-image ]; then
    jpackage --type "$type" --name flarvo --app-version 0.1.0 --app-image "$image" --dest "$here/target/image" "$@" \
      >"$here/target/image.log" 2>&1 || { tail -n 5 "$here/target/image.log" >&2; fail "no package was built"; }
  fi
  say "the image is in target/image"
}

# The lists of classes from which each place makes its archive.
record_starts() {
  local app=$1 java=$2 work list cp
  work=$(mktemp -d)
  list=$app/cli.classes
  cp=$(sed "s|^|$app/|" "$app/cli.jars" | paste -sd : -)
  cp -r "$app/demo/meridian" "$work/demo" # what is sent lies beside its project
  local commands=("dialects" "inspect $app/demo/meridian/mer_010_terrace"
    "convert $app/demo/meridian/mer_010_terrace --to anim-yup-cm --out $work/a.usda"
    "convert $work/a.usda --to engine-zup-left-cm --out $work/a.fbx" "inspect $work/a.fbx"
    "convert $work/a.usda --to track-zup --out $work/a.abc" "inspect $work/a.abc"
    "convert $work/a.usda --to engine-yup-m --out $work/a.glb" "inspect $work/a.glb"
    "convert $work/a.usda --to anim-zup-m --out $work/a.usdc" "send $work/demo/project.json"
    "prove $work/a.usda $work/a.fbx --to engine-zup-left-cm" "import-as anim-zup-m $work/a.fbx" "--help")
  local c
  for c in "${commands[@]}"; do
    # shellcheck disable=SC2086
    "$java" -XX:+UseSerialGC -XX:DumpLoadedClassList="$work/one" -cp "$cp" flarvo.cli.Main $c \
      >/dev/null 2>&1 || true
    [ ! -f "$work/one" ] || cat "$work/one" >>"$work/cli"
    rm -f "$work/one"
  done
  awk '!seen[$0]++' "$work/cli" >"$list"
  cp=$(sed "s|^|$app/|" "$app/window.jars" | paste -sd : -)
  with_display record_window "$java" "$app" "$cp" "$work"
  awk '!seen[$0]++' "$work/window" >"$app/window.classes" 2>/dev/null || : >"$app/window.classes"
  rm -rf "$work"
}

record_window() {
  local java=$1 app=$2 cp=$3 work=$4 window
  XDG_DATA_HOME=$work/data XDG_STATE_HOME=$work/state XDG_CONFIG_HOME=$work/config \
    "$java" -XX:+UseZGC -XX:DumpLoadedClassList="$work/window" \
    -cp "$cp" flarvo.desktop.Main "$app/demo/meridian/project.json" >"$work/log" 2>&1 &
  window=$!
  for _ in $(seq 300); do
    grep -q "first window" "$work/log" && break
    kill -0 $window 2>/dev/null || break
    sleep 0.2
  done
  sleep 5
  kill $window 2>/dev/null || true
  wait $window 2>/dev/null || true
}
