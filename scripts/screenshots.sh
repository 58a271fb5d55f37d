#!/usr/bin/env bash
# Makes the pictures of docs/screenshots from the demo data: terminals under Xvfb, the page in headless Chromium.
# Needs Debian's packages xvfb, xterm, imagemagick and fonts-dejavu-core.
set -euo pipefail
cd "$(dirname "$0")/.."
out=docs/screenshots
scratch=$(mktemp -d)
display=:$((90 + RANDOM % 9))
Xvfb "$display" -screen 0 1280x800x24 > /dev/null 2>&1 &
server=$!
trap 'kill $server; rm -rf "$scratch"' EXIT
export DISPLAY=$display
sleep 1

# terminal NAME FONT-SIZE COMMAND: runs a command in a terminal window and keeps what it shows.
terminal() {
  xterm -geometry 400x200+0+0 -maximized -fullscreen -fa 'DejaVu Sans Mono' -fs "$2" -bg '#221c2b' -fg '#f3ead8' \
    -xrm 'XTerm*scrollBar: false' -e bash -c "PS1='$ '; printf '\033[2m\$ %s\033[0m\n' '$4'; $3; touch $scratch/done; sleep 60" &
  local window=$!
  for _ in $(seq 200); do [ -e "$scratch/done" ] && break; sleep 0.2; done
  sleep 0.7
  import -window root "$scratch/$1.png"
  convert "$scratch/$1.png" -colors 64 -strip "PNG8:$out/$1.png"
  rm "$scratch/done"
  kill $window 2> /dev/null || true
  wait $window 2> /dev/null || true
}

jocus="node dist/bin/jocus.js"
sed 's/quota: 12/quota: 99/' demo/dusk-on-the-heath.yaml > "$scratch/heath.yaml"
terminal check 11 "$jocus check demo/dusk-on-the-heath.yaml" 'jocus check demo/dusk-on-the-heath.yaml'
terminal check-broken 8 "cd $scratch; node $PWD/dist/bin/jocus.js check heath.yaml" 'jocus check heath.yaml    # a quota of 99 drops, and a comb that holds 20'
node dist/bin/jocus.js check "$scratch/heath.yaml" --format svg --out "$scratch/flow.svg" > /dev/null || true
node scripts/file-screenshot.mjs "$scratch/flow.svg" "$out/flow.png"
terminal witness 11 "$jocus check demo/dusk-on-the-heath.yaml --witness 7" 'jocus check demo/dusk-on-the-heath.yaml --witness 7'
terminal simulate 7 "$jocus simulate demo/dusk-on-the-heath.yaml" 'jocus simulate demo/dusk-on-the-heath.yaml'
terminal compare 10 "$jocus compare demo/dusk-on-the-heath.yaml --set petal=20" 'jocus compare demo/dusk-on-the-heath.yaml --set petal=20'
terminal dials 10 "$jocus dials demo/dusk-on-the-heath.yaml" 'jocus dials demo/dusk-on-the-heath.yaml'
sed 's/from: 200, to: 500/from: 400, to: 700/' demo/dusk-on-the-heath.yaml > "$scratch/aim.yaml"
terminal tune 10 "$jocus tune $scratch/aim.yaml" 'jocus tune heath.yaml    # newcomers are to score 400 to 700'
node dist/bin/jocus.js simulate demo/dusk-on-the-heath.yaml --sessions 40 --seed 9 --save-events "$scratch/playtest.csv" > /dev/null
terminal fit 10 "$jocus fit demo/dusk-on-the-heath.yaml $scratch/playtest.csv" 'jocus fit demo/dusk-on-the-heath.yaml playtest.csv'
node dist/bin/jocus.js report demo/dusk-on-the-heath.yaml --out "$scratch/report.html" > /dev/null
node scripts/file-screenshot.mjs "$scratch/report.html" "$out/report.png"
node scripts/file-screenshot.mjs "$scratch/report.html" "$out/report-figures.png" funnel
terminal world 10 "$jocus simulate demo/dusk-on-the-heath.yaml --sessions 200 --world field" 'jocus simulate demo/dusk-on-the-heath.yaml --sessions 200 --world field'
printf 'input.start\n2 x blossom.taken\nwait 4\nwasp.hit\nwasp.hit\nundo\nroyalJely.taken\n' > "$scratch/lines.txt"
terminal try 10 "$jocus try demo/dusk-on-the-heath.yaml < $scratch/lines.txt" 'jocus try demo/dusk-on-the-heath.yaml < lines.txt'
terminal demo 9 "FORCE_COLOR=1 $jocus demo | tail -n 62" 'jocus demo'
node scripts/page-screenshot.mjs heath "$out/heath.png"
node scripts/workbench-screenshot.mjs "$out"
