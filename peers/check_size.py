"""How large our USD is beside the reference library's own file of the same layer."""

import json
import math
import os
import random
import subprocess
import sys
import tempfile

from pxr import Sdf

LIMIT = 1.1
SOLVE = "demo/meridian/mer_010_terrace/solve/mer_010_terrace_solve.usda"
FRAMES, TRACKERS = 500, 20_000


def large(path):
    """A scene document of a long walk past many points."""
    r = random.Random(4)
    poses = []
    for f in range(FRAMES):
        a = 0.002 * f
        poses += [0.01 * f, 1.6 + 0.02 * math.sin(f), 0.3 * math.cos(a), math.cos(a), 0, math.sin(a), 0]
    document = {
        "schema": "flarvo-scene", "version": 1, "rate": "24", "frames": [1001, 1000 + FRAMES],
        "picture": [1920, 1080, 1], "metresPerUnit": 1,
        "axes": {"right": "+X", "up": "+Y", "away": "-Z"},
        "cameras": [{
            "name": "cam", "firstFrame": 1001, "poses": poses, "optics": [35, 36, 20.25, 0, 0],
        }],
        "trackers": [{
            "name": "trackers", "names": [f"t{i:05d}" for i in range(TRACKERS)],
            "positions": [round(r.gauss(0, 5), 6) for _ in range(3 * TRACKERS)],
        }],
    }
    with open(path, "w", encoding="utf-8") as f:
        json.dump(document, f)


def main(root):
    failed = 0
    with tempfile.TemporaryDirectory() as temp:
        document = os.path.join(temp, "large.json")
        large(document)
        solve = os.path.join(root, SOLVE)
        for name, source, words in (
            ("the demo's solve", solve, ["--from", "track-zup"]),
            ("points", solve, ["--from", "track-zup", "--points", "trackers"]),
            (f"{FRAMES} frames of {TRACKERS} trackers", document, []),
        ):
            for ending in (".usda", ".usdc"):
                ours = os.path.join(temp, "ours" + ending)
                subprocess.run(
                    [os.path.join(root, "flarvo"), "convert", source, "--to", "anim-yup-cm",
                     "--overwrite", "--out", ours, *words], check=True, capture_output=True,
                )
                theirs = os.path.join(temp, "theirs" + ending)
                if os.path.exists(theirs):
                    os.remove(theirs)
                Sdf.Layer.OpenAsAnonymous(ours).Export(theirs)
                ratio = os.path.getsize(ours) / os.path.getsize(theirs)
                failed += ratio > LIMIT
                word = "passed" if ratio <= LIMIT else "FAILED"
                print(f"{word} {ending}, {name}: {os.path.getsize(ours)} bytes, {ratio:.3f} ×")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(os.path.abspath(sys.argv[1])))
