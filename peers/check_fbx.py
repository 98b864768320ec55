"""Random FBX curves and trees, evaluated by an independent reader written in C.

The two readers divide stored weights by 9999 (the number that the format's own header names) and by
10000; the program of the other sets that right for the curves (see fbx/src/main.rs), but not where
the other limits the slope of a progressive key by its weight. Those are compared more loosely.
"""

import json
import os
import subprocess
import sys
import tempfile

import fbx_trees
from fbx_curves import FIRST, FREE_OF_WEIGHTS, LAST, RATE, document

FILES, WEIGHTED_FILES, LIMITED_FILES, NULLS = 34, 6, 2, 100  # 300 curves a file
TREE_FILES = 50
RELATIVE = 1e-6
LIMITED = 1e-4  # slopes of progressive keys, limited by weights


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


def compare(root, tool, path, names):
    """The worst difference, relative to how far things lie, and where they are not the same."""
    a, b = theirs(tool, path), ours(root, path)
    worst, at = 0.0, None
    for where in a:
        if names is not None and where[0] not in names:
            continue
        if where not in b:
            return float("inf"), (where, "missing")
        reach = max(10.0, *(abs(v) for v in a[where]))
        off = max(abs(x - y) for x, y in zip(a[where], b[where])) / reach
        if off > worst:
            worst, at = off, where
    return worst, at


def family(root, tool, folder, label, make, files, limit):
    """One family of files: what went wrong, and the worst difference."""
    failed, worst = 0, 0.0
    for k in range(files):
        text, names = make(k)
        path = os.path.join(folder, f"{label.replace(' ', '_')}{k}.fbx")
        with open(path, "w", encoding="utf-8") as f:
            f.write(text)
        off, where = compare(root, tool, path, names)
        worst = max(worst, off)
        if not off <= limit:
            failed += 1
            print(f"FAILED {label} {k}: {off:.1e} at {where}")
    print(f"{label}: {worst:.1e} relative; {files - failed} files passed, {failed} failed")
    return failed


def main(root, tool):
    def plain(k):
        return document(4 * k // 3, NULLS, False), None

    def weighted(k):
        return document(4 * k + 3, NULLS, True, FREE_OF_WEIGHTS), None

    def limited(k):
        return document(4 * k + 2, NULLS, True), None

    with tempfile.TemporaryDirectory() as folder:
        failed = family(root, tool, folder, f"{3 * NULLS * FILES} curves", plain, FILES, RELATIVE)
        failed += family(root, tool, folder, "weighted curves", weighted, WEIGHTED_FILES, RELATIVE)
        failed += family(
            root, tool, folder, "weighted and progressive curves", limited, LIMITED_FILES, LIMITED
        )
        failed += family(
            root, tool, folder, f"{TREE_FILES * fbx_trees.TREES} trees", fbx_trees.document,
            TREE_FILES, RELATIVE,
        )
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(os.path.abspath(sys.argv[1]), sys.argv[2]))
