"""The peer check: our deliveries, read by the reference library of the format.

For each shipped dialect the demo's solve is delivered as USD text; the reference library opens it
without a warning, its validity checker passes, and its own camera frustum projects its own
transforms of the trackers. Those pixels are compared with what `flarvo pixels` says of the source.
"""

import csv
import json
import os
import subprocess
import sys
import tempfile

from pxr import Gf, Usd, UsdGeom, UsdUtils

LIMIT_PX = 0.01
WIDTH, HEIGHT = 960, 540
FIRST = 0  # the demo solve's own first frame


def flarvo(root, *words):
    return subprocess.run(
        [os.path.join(root, "flarvo"), *words], capture_output=True, text=True, check=False
    )


def source_pixels(root, solve, folder):
    out = os.path.join(folder, "source.csv")
    done = flarvo(root, "pixels", solve, "--size", f"{WIDTH}x{HEIGHT}", "--out", out)
    if done.returncode != 0:
        raise SystemExit(done.stderr)
    rows = {}
    with open(out, newline="", encoding="utf-8") as f:
        for r in csv.DictReader(f):
            if r["x"]:
                rows[int(r["frame"]), r["tracker"]] = float(r["x"]), float(r["y"])
    return rows


def peer_pixels(path):
    """Frame and tracker to pixel, by the library's own camera and transforms."""
    stage = Usd.Stage.Open(path)
    camera = next(p for p in stage.Traverse() if p.IsA(UsdGeom.Camera))
    trackers = [
        p for p in stage.Traverse()
        if p.GetTypeName() == "Xform" and not p.GetChildren()
    ]
    places = {}
    for p in trackers:
        name = p.GetAttribute("userProperties:name")
        m = UsdGeom.Xformable(p).ComputeLocalToWorldTransform(Usd.TimeCode.EarliestTime())
        places[name.Get() if name else p.GetName()] = m.ExtractTranslation()
    rows = {}
    start, end = int(stage.GetStartTimeCode()), int(stage.GetEndTimeCode())
    for code in range(start, end + 1):
        cam = UsdGeom.Camera(camera).GetCamera(Usd.TimeCode(code))
        frustum = cam.frustum
        both = frustum.ComputeViewMatrix() * frustum.ComputeProjectionMatrix()
        for name, place in places.items():
            clip = Gf.Vec4d(place[0], place[1], place[2], 1) * both
            if clip[3] > 0:
                x = (clip[0] / clip[3] * 0.5 + 0.5) * WIDTH
                y = (0.5 - clip[1] / clip[3] * 0.5) * HEIGHT
                rows[code - start + FIRST, name] = x, y
    facts = {
        "up": UsdGeom.GetStageUpAxis(stage),
        "unit": UsdGeom.GetStageMetersPerUnit(stage),
        "purpose": {str(UsdGeom.Imageable(p).ComputePurpose()) for p in trackers},
        "default": stage.GetDefaultPrim().IsValid(),
    }
    return rows, facts


def check_validity(path):
    checker = UsdUtils.ComplianceChecker(arkit=False, skipARKitRootLayerCheck=True)
    checker.CheckCompliance(path)
    return checker.GetErrors() + checker.GetFailedChecks() + checker.GetWarnings()


def main(root):
    solve = os.path.join(
        root, "demo/meridian/mer_010_terrace/solve/mer_010_terrace_solve.usda"
    )
    passed = failed = 0
    with tempfile.TemporaryDirectory() as folder:
        truth = source_pixels(root, solve, folder)
        dialects = json.loads(flarvo(root, "dialects", "--json").stdout)
        for d in dialects:
            path = os.path.join(folder, d["name"] + ".usda")
            done = flarvo(
                root, "convert", solve, "--from", "track-zup", "--to", d["name"], "--out", path
            )
            problems = []
            worst = float("nan")
            if done.returncode != 0:
                problems.append(done.stderr.strip())
            else:
                # A child process, so that anything the library prints is seen.
                child = subprocess.run(
                    [sys.executable, __file__, "--open", path],
                    capture_output=True, text=True, check=False,
                )
                if child.returncode != 0 or child.stderr.strip():
                    problems.append("the library complained: " + child.stderr.strip()[-300:])
                problems += check_validity(path)
                found, facts = peer_pixels(path)
                if set(found) != set(truth):
                    problems.append(
                        f"{len(set(found) ^ set(truth))} projections on one side only"
                    )
                worst = max(
                    max(abs(found[k][0] - truth[k][0]), abs(found[k][1] - truth[k][1]))
                    for k in truth if k in found
                )
                if not worst <= LIMIT_PX:
                    problems.append(f"{worst:.6f} px away")
                if abs(facts["unit"] - d["metresPerUnit"]) > 1e-12:
                    problems.append(f"unit {facts['unit']}")
                if facts["purpose"] != {"guide"}:
                    problems.append(f"purpose {facts['purpose']}")
                if not facts["default"]:
                    problems.append("no default prim")
            if problems:
                failed += 1
                print(f"FAILED usd-text {d['name']}: {'; '.join(map(str, problems))}")
            else:
                passed += 1
                print(f"passed usd-text {d['name']}: {worst:.7f} px, {len(truth)} projections")
    print(f"{passed} passed, {failed} failed")
    return 1 if failed else 0


if __name__ == "__main__":
    if sys.argv[1] == "--open":
        peer_pixels(sys.argv[2])
        sys.exit(0)
    sys.exit(main(os.path.abspath(sys.argv[1])))
