"""Groups that move, nested, read by the reference USD library.

The scene of cart.py is handed to `flarvo convert` as a scene document, and what comes out as USD
text, crate and package is evaluated by the library: every point of every group on every frame, and
every mesh corner, in metres. The same with the camera held: it must stand still, and everything
else take over its motion. And once more under a parent that is scaled, turned and moved, with the
camera in the cart: everything must be where it was.
"""

import json
import math
import os
import subprocess
import sys
import tempfile

from cart import BOX, FIRST, LAST, POINTS, document, truth
from pxr import Gf, Usd, UsdGeom, UsdUtils

LIMIT = 2e-5  # of a metre: mesh points are 32-bit floats


HELD = 1030
WAYS = {
    "": [],
    ", camera held": ["--hold-camera", str(HELD)],
    ", under a scaled parent": ["--parent", "rig,100,1,0,-2,30,10,5", "--camera-in", "cart"],
}


def camera(f):
    """Where the camera of cart.py is; it does not turn."""
    return [0.01 * (f - FIRST), 0.4, 0]


def taken(at, f, held):
    """A place, or where it is once the camera is held."""
    return [a + h - c for a, h, c in zip(at, camera(HELD), camera(f))] if held else at


def check(path, problems, held):
    stage = Usd.Stage.Open(path)
    worst = 0.0
    seen = 0
    for prim in stage.Traverse():
        if prim.GetTypeName() == "Camera":
            for f in range(FIRST, LAST + 1):
                m = UsdGeom.Xformable(prim).ComputeLocalToWorldTransform(f)
                at = m.Transform(Gf.Vec3d(0))
                worst = max(worst, math.dist(at, camera(HELD if held else f)))
            continue
        name = prim.GetName()
        leaf = prim.GetTypeName() == "Xform" and not prim.GetChildren()
        if not leaf and prim.GetTypeName() != "Mesh":
            continue
        group = name.split("_")[0] if leaf else name.split("_")[-1]
        for f in range(FIRST, LAST + 1):
            m = UsdGeom.Xformable(prim).ComputeLocalToWorldTransform(f)
            if leaf:
                pairs = [(Gf.Vec3d(0), POINTS[group][int(name.split("_")[-1])])]
            else:
                own = UsdGeom.Mesh(prim).GetPointsAttr().Get(f)
                pairs = [(Gf.Vec3d(own[i]), BOX[i]) for i in range(8)]
            for here, there in pairs:
                at = m.Transform(here)
                wanted = taken(truth(group, there, f), f, held)
                worst = max(worst, math.dist(at, wanted))
                seen += 1
    if seen != 60 * (15 + 24):
        problems.append(f"{seen} places found, {60 * (15 + 24)} expected")
    if not worst <= LIMIT:
        problems.append(f"{worst:.7f} m away")
    checker = UsdUtils.ComplianceChecker(arkit=False, skipARKitRootLayerCheck=True)
    checker.CheckCompliance(path)
    problems += checker.GetErrors() + checker.GetFailedChecks()
    return worst


def main(root):
    passed = failed = 0
    with tempfile.TemporaryDirectory() as folder:
        source = os.path.join(folder, "cart.json")
        with open(source, "w", encoding="utf-8") as f:
            json.dump(document(), f)
        for kind, way in [(k, w) for w in WAYS for k in ("usda", "usdc", "usdz")]:
            out = os.path.join(folder, f"out{len(way)}." + kind)
            how = WAYS[way]
            held = way == ", camera held"
            done = subprocess.run(
                [os.path.join(root, "flarvo"), "convert", source, "--to", "anim-yup-m",
                 "--out", out, *how],
                capture_output=True, text=True, check=False,
            )
            problems = [] if done.returncode == 0 else [done.stderr.strip()]
            worst = check(out, problems, held) if not problems else float("nan")
            if problems:
                failed += 1
                print(f"FAILED moving groups{way}, {kind}: {'; '.join(map(str, problems))}")
            else:
                passed += 1
                print(f"passed moving groups{way}, {kind}: {worst:.2e} m, 60 frames")
    print(f"{passed} passed, {failed} failed")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(os.path.abspath(sys.argv[1])))
