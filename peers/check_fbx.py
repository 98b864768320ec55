"""Random FBX curves of every tangent mode, evaluated by an independent reader written in C.

Weighted tangents are compared more loosely: the two readers divide stored weights by 9999 (the
number that the format's own header names) and by 10000.
"""

import json
import os
import subprocess
import sys
import tempfile

from fbx_curves import FIRST, LAST, RATE, document

FILES, NULLS = 34, 100  # 10,200 curves
RELATIVE = 1e-5  # that reader takes 0.333333 for a third
WEIGHTED = 2e-3


def theirs(tool, path):
    out = subprocess.run(
        [tool, path, str(RATE), str(FIRST), str(LAST)], capture_output=True, text=True, check=True
    ).stdout
    at = {}
    for line in out.splitlines():
        name, frame, *numbers = line.split("\t")
        at[name, int(frame)] = [float(v) for v in numbers[9:]]
    return at


def ours(root, path):
    done = subprocess.run(
        [os.path.join(root, "flarvo"), "inspect", path, "--geometry", "--json"],
        capture_output=True, text=True, check=False,
    )
    if done.returncode != 0:
        raise SystemExit(done.stderr)
    at = {}
    scene = json.loads(done.stdout)
    for p in (scene[0] if isinstance(scene, list) else scene)["points"]:
        for f in range(FIRST, LAST + 1):
            where = p["position"] if "position" in p else p["positions"][f - p["firstFrame"]]
            at[p["name"], f] = where
    return at


def main(root, tool):
    passed = failed = 0
    worst = {False: 0.0, True: 0.0}
    with tempfile.TemporaryDirectory() as folder:
        for k in range(FILES):
            weighted = k % 4 == 3
            path = os.path.join(folder, f"curves{k}.fbx")
            with open(path, "w", encoding="utf-8") as f:
                f.write(document(k, NULLS, weighted))
            a, b = theirs(tool, path), ours(root, path)
            bad = []
            for where in a:
                if where not in b:
                    bad.append((where, "missing"))
                    continue
                reach = max(10.0, *(abs(v) for v in a[where]))
                off = max(abs(x - y) for x, y in zip(a[where], b[where])) / reach
                worst[weighted] = max(worst[weighted], off)
                if off > (WEIGHTED if weighted else RELATIVE):
                    bad.append((where, off))
            passed += not bad
            failed += bool(bad)
            if bad:
                print(f"FAILED curves {k}: {len(bad)} of {len(a)}, such as {bad[0]}")
    print(
        f"{3 * FILES * NULLS} curves: {worst[False]:.1e} relative, weighted {worst[True]:.1e};"
        f" {passed} files passed, {failed} failed"
    )
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(os.path.abspath(sys.argv[1]), sys.argv[2]))
