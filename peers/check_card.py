"""Picture cards, as libraries that we did not write see them.

The demo's solve and its plates go out with a card. The reference USD library finds the card's
material, follows it to a picture on every frame, and projects the card's corners with its own
camera: they must be the picture's corners. The validator of the glTF working group finds nothing to
say of `.glb` and `.gltf` deliveries, with and without a card.
"""

import json
import os
import subprocess
import sys
import tempfile

from pxr import Gf, Usd, UsdGeom, UsdShade, UsdUtils

LIMIT_PX = 0.01
WIDTH, HEIGHT = 960, 540
SHOT = "demo/meridian/mer_010_terrace"


def flarvo(root, *words):
    return subprocess.run(
        [os.path.join(root, "flarvo"), *words], capture_output=True, text=True, check=False
    )


def deliver(root, out, dialect, only):
    done = flarvo(
        root, "convert", os.path.join(root, SHOT, "solve/mer_010_terrace_solve.usda"),
        os.path.join(root, SHOT, "plates/undistorted"), "--from", "track-zup", "--to", dialect,
        "--only", only, "--out", out,
    )
    if done.returncode != 0:
        raise SystemExit(done.stderr)


def picture(mesh):
    """The texture's file attribute, by the library's own walk through the material."""
    material, _ = UsdShade.MaterialBindingAPI(mesh).ComputeBoundMaterial()
    surface, _, _ = material.ComputeSurfaceSource()
    if surface.GetIdAttr().Get() != "UsdPreviewSurface":
        raise ValueError(f"the surface is {surface.GetIdAttr().Get()}")
    source, name, _ = surface.GetInput("emissiveColor").GetConnectedSource()
    texture = UsdShade.Shader(source.GetPrim())
    reader, _, _ = texture.GetInput("st").GetConnectedSource()
    primvar = UsdShade.Shader(reader.GetPrim()).GetInput("varname").Get()
    return texture.GetInput("file").GetAttr(), primvar


def check(path, folder):
    problems = []
    stage = Usd.Stage.Open(path)
    camera = next(p for p in stage.Traverse() if p.IsA(UsdGeom.Camera))
    mesh = next(p for p in stage.Traverse() if p.IsA(UsdGeom.Mesh))
    file, primvar = picture(mesh)
    uvs = UsdGeom.PrimvarsAPI(mesh).GetPrimvar(primvar).ComputeFlattened()
    points = UsdGeom.Mesh(mesh).GetPointsAttr().Get()
    corners = UsdGeom.Mesh(mesh).GetFaceVertexIndicesAttr().Get()
    start, end = int(stage.GetStartTimeCode()), int(stage.GetEndTimeCode())
    worst = 0.0
    for code in range(start, end + 1):
        frustum = UsdGeom.Camera(camera).GetCamera(Usd.TimeCode(code)).frustum
        both = frustum.ComputeViewMatrix() * frustum.ComputeProjectionMatrix()
        world = UsdGeom.Xformable(mesh).ComputeLocalToWorldTransform(Usd.TimeCode(code))
        for k, i in enumerate(corners):
            p = world.Transform(Gf.Vec3d(points[i]))
            clip = Gf.Vec4d(p[0], p[1], p[2], 1) * both
            x = (clip[0] / clip[3] * 0.5 + 0.5) * WIDTH
            y = (clip[1] / clip[3] * 0.5 + 0.5) * HEIGHT
            worst = max(worst, abs(x - uvs[k][0] * WIDTH), abs(y - uvs[k][1] * HEIGHT))
        wanted = os.path.join(folder, f"terrace_undist.{1001 + code - start}.jpg")
        found = file.Get(Usd.TimeCode(code))
        if os.path.realpath(found.resolvedPath or "nowhere") != os.path.realpath(wanted):
            problems.append(f"frame {code} shows {found}")
    if not worst <= LIMIT_PX:
        problems.append(f"{worst:.6f} px away")
    checker = UsdUtils.ComplianceChecker(arkit=False, skipARKitRootLayerCheck=True)
    # The library's package comes without the definitions of the shaders that this rule looks up.
    checker._rules = [r for r in checker._rules if "ShaderProperty" not in type(r).__name__]
    checker.CheckCompliance(path)
    problems += checker.GetErrors() + checker.GetFailedChecks() + checker.GetWarnings()
    return worst, problems


def dialects(root):
    return [d["name"] for d in json.loads(flarvo(root, "dialects", "--json").stdout)]


def usd(root, temp):
    failed = done = 0
    worst = 0.0
    for dialect in dialects(root):
        for ending in (".usda", ".usdc"):
            path = os.path.join(temp, dialect + ending)
            deliver(root, path, dialect, "camera,trackers,card")
            off, problems = check(path, os.path.join(root, SHOT, "plates/undistorted"))
            worst = max(worst, off)
            done += 1
            if problems:
                failed += 1
                print(f"FAILED {dialect}{ending}: {'; '.join(map(str, problems[:3]))}")
    print(f"{done} cards in USD: {worst:.7f} px; {done - failed} passed, {failed} failed")
    return failed


def gltf(root, temp, folder):
    paths = []
    for only in ("camera,trackers", "camera,trackers,card"):
        for ending in (".glb", ".gltf"):
            path = os.path.join(temp, only.replace(",", "_") + ending)
            deliver(root, path, dialects(root)[0], only)
            paths.append(path)
    said = subprocess.run(
        ["node", os.path.join(folder, "validate.mjs"), *paths],
        capture_output=True, text=True, check=False,
    )
    if said.returncode != 0:
        print(f"FAILED the validator did not run: {said.stderr[-300:]}")
        return 1
    failed = 0
    for line in said.stdout.splitlines():
        path, messages = line.split("\t", 1)
        if json.loads(messages):
            failed += 1
            print(f"FAILED {os.path.basename(path)}: {messages[:300]}")
    print(f"{len(paths)} glTF files: {len(paths) - failed} without a word of the validator")
    return failed


def main(root, folder):
    with tempfile.TemporaryDirectory(dir=os.path.dirname(folder)) as temp:
        failed = usd(root, temp)
        if os.path.exists(os.path.join(folder, "node_modules/gltf-validator")):
            failed += gltf(root, temp, folder)
        else:
            print("the glTF validator is out of reach, so it was not asked")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(os.path.abspath(sys.argv[1]), os.path.abspath(sys.argv[2])))
