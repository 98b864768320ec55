"""Files of many kinds written by the reference USD library, read back by both, and compared.

Every camera is compared frame by frame (place, view, up, focal length, film back), every childless
transform and every point by its place, every mesh by its extent. Relative to the scene's size.
"""

import itertools
import json
import os
import random
import subprocess

from pxr import Gf, Sdf, Usd, UsdGeom, UsdUtils, Vt

LIMIT = 1e-6
OPS = "translate scale rotateX rotateY rotateZ rotateXYZ rotateZYX rotateYXZ orient transform".split()


def op(x, kind, suffix, r, times, precision):
    """One animated or still operation with random numbers."""
    P = UsdGeom.XformOp
    add = {
        "translate": lambda: x.AddTranslateOp(precision, suffix),
        "scale": lambda: x.AddScaleOp(precision, suffix),
        "orient": lambda: x.AddOrientOp(precision, suffix),
        "transform": lambda: x.AddTransformOp(P.PrecisionDouble, suffix),
    }.get(kind) or (lambda: getattr(x, "Add" + kind[0].upper() + kind[1:] + "Op")(precision, suffix))
    o = add()
    double = precision == P.PrecisionDouble
    V = Gf.Vec3d if double else Gf.Vec3f

    def value():
        if kind == "translate":
            return V(*(r.uniform(-5, 5) for _ in range(3)))
        if kind == "scale":
            return V(*(r.uniform(0.5, 2) for _ in range(3)))
        if kind == "orient":
            q = Gf.Rotation(Gf.Vec3d(r.gauss(0, 1), r.gauss(0, 1), r.gauss(0, 1)), r.uniform(0, 360)).GetQuat()
            return q if double else Gf.Quatf(q)
        if kind == "transform":
            return Gf.Matrix4d().SetRotate(
                Gf.Rotation(Gf.Vec3d(r.gauss(0, 1), 1, r.gauss(0, 1)), r.uniform(0, 90))
            ) * Gf.Matrix4d().SetTranslate(Gf.Vec3d(r.uniform(-3, 3), 1, 2))
        if len(kind) == 7:
            return r.uniform(-180, 180)
        return V(*(r.uniform(-180, 180) for _ in range(3)))

    if times:
        for t in times:
            o.Set(value(), t)
    else:
        o.Set(value())
    return o


def random_stack(prim, r, times, scaled):
    x = UsdGeom.Xformable(prim)
    n = r.randint(0, 4)
    kinds = [k for k in OPS if scaled or k != "scale"]
    made = []
    for i in range(n):
        kind = r.choice(kinds)
        precision = r.choice([UsdGeom.XformOp.PrecisionDouble, UsdGeom.XformOp.PrecisionFloat])
        made.append((op(x, kind, f"s{i}", r, times if r.random() < 0.5 else None, precision), kind))
    for o, kind in made[:1]:
        if r.random() < 0.3 and kind in ("translate", "rotateX", "orient", "transform"):
            ops = x.GetOrderedXformOps()
            inverse = {
                "translate": lambda: x.AddTranslateOp(o.GetPrecision(), "s0", True),
                "rotateX": lambda: x.AddRotateXOp(o.GetPrecision(), "s0", True),
                "orient": lambda: x.AddOrientOp(o.GetPrecision(), "s0", True),
                "transform": lambda: x.AddTransformOp(o.GetPrecision(), "s0", True),
            }[kind]()
            x.SetXformOpOrder(ops + [inverse] if inverse not in ops else ops)
    if r.random() < 0.15:
        x.SetResetXformStack(True)


def camera(stage, path, r, times):
    cam = UsdGeom.Camera.Define(stage, path)
    cam.GetHorizontalApertureAttr().Set(r.uniform(10, 40))
    cam.GetVerticalApertureAttr().Set(r.uniform(8, 24))
    focal = cam.GetFocalLengthAttr()
    for t in times:
        focal.Set(r.uniform(15, 85), t)
    random_stack(cam, r, times, False)
    if not cam.GetOrderedXformOps():
        op(cam, "translate", "", r, times, UsdGeom.XformOp.PrecisionDouble)
    return cam


def fill(stage, root, seed, scaled=True, times=None):
    """A hierarchy of transforms with a camera, locators, points and a mesh."""
    r = random.Random(seed)
    times = times or [1001.0 + i for i in range(4)]
    parent = root
    for depth in range(r.randint(1, 3)):
        parent = parent + f"/g{depth}"
        random_stack(UsdGeom.Xform.Define(stage, parent), r, times, scaled)
    camera(stage, parent + "/cam", r, times)
    for i in range(5):
        p = UsdGeom.Xform.Define(stage, parent + f"/loc{i}")
        op(p, "translate", "", r, None, UsdGeom.XformOp.PrecisionDouble)
    pts = UsdGeom.Points.Define(stage, parent + "/cloud")
    pts.GetPointsAttr().Set(Vt.Vec3fArray([Gf.Vec3f(*(r.uniform(-9, 9) for _ in range(3))) for _ in range(40)]))
    n = r.choice([4, 40, 400])
    mesh = UsdGeom.Mesh.Define(stage, parent + "/mesh")
    mesh.GetPointsAttr().Set(Vt.Vec3fArray([Gf.Vec3f(*(r.uniform(-9, 9) for _ in range(3))) for _ in range(n)]))
    mesh.GetFaceVertexCountsAttr().Set(Vt.IntArray([4] * (n // 4)))
    mesh.GetFaceVertexIndicesAttr().Set(Vt.IntArray(list(range(n // 4 * 4))))


def head(stage, r):
    UsdGeom.SetStageUpAxis(stage, r.choice(["Y", "Z"]))
    UsdGeom.SetStageMetersPerUnit(stage, r.choice([0.01, 1.0, 0.001]))
    stage.SetTimeCodesPerSecond(24)
    stage.SetFramesPerSecond(24)
    stage.SetStartTimeCode(1001)
    stage.SetEndTimeCode(1004)


def new(folder, name, seed):
    s = Usd.Stage.CreateNew(os.path.join(folder, name))
    head(s, random.Random(seed))
    return s


def write_corpus(folder):
    made = []

    def keep(stage):
        stage.GetRootLayer().Save()
        made.append(stage.GetRootLayer().realPath)

    for i in range(20):
        s = new(folder, f"plain{i}.{'usdc' if i % 2 else 'usda'}", i)
        fill(s, "/World", i)
        keep(s)
    for i, ext in itertools.product(range(4), ("usda", "usdc")):
        sub = new(folder, f"sub{i}.{ext}", i)
        fill(sub, "/World", 100 + i)
        keep(sub)
        s = new(folder, f"sublayered{i}.{ext}", i)
        s.GetRootLayer().subLayerPaths.append(f"./sub{i}.{ext}")
        s.GetRootLayer().subLayerOffsets[0] = Sdf.LayerOffset(10.0 * i, 1.0)
        keep(s)
        s = new(folder, f"referenced{i}.{ext}", i)
        p = s.DefinePrim("/Shot/inner", "Xform")
        random_stack(p, random.Random(i), [1001.0, 1003.0], True)
        p.GetReferences().AddReference(f"./sub{i}.{ext}", "/World", Sdf.LayerOffset(2.0 * i, 0.5 if i % 2 else 1.0))
        keep(s)
        s = new(folder, f"payload{i}.{ext}", i)
        p = s.DefinePrim("/Shot", "Xform")
        p.GetPayloads().AddPayload(f"./sub{i}.{ext}", "/World")
        keep(s)
        sub = new(folder, f"rate{i}.{ext}", i)
        sub.SetTimeCodesPerSecond(48)
        fill(sub, "/World", 500 + i, times=[2002.0, 2004.0, 2006.0, 2008.0])
        sub.GetRootLayer().defaultPrim = "World"
        keep(sub)
        s = new(folder, f"otherrate{i}.{ext}", i)
        p = s.DefinePrim("/Shot", "Xform")
        p.GetReferences().AddReference(f"./rate{i}.{ext}")
        keep(s)
        s = new(folder, f"inherits{i}.{ext}", i)
        s.CreateClassPrim("/_class")
        fill(s, "/_class", 200 + i)
        p = s.DefinePrim("/Shot/a", "Xform")
        p.GetInherits().AddInherit("/_class")
        random_stack(p, random.Random(i + 7), [1001.0, 1004.0], True)
        keep(s)
        s = new(folder, f"variants{i}.{ext}", i)
        p = s.DefinePrim("/Shot", "Xform")
        vs = p.GetVariantSets().AddVariantSet("solve")
        for k, name in enumerate(("first", "second")):
            vs.AddVariant(name)
            vs.SetVariantSelection(name)
            with vs.GetVariantEditContext():
                fill(s, "/Shot/body", 300 + 10 * i + k)
        vs.SetVariantSelection(("first", "second")[i % 2])
        keep(s)
        s = new(folder, f"over{i}.{ext}", i)
        s.GetRootLayer().subLayerPaths.append(f"./sub{i}.{ext}")
        o = s.OverridePrim("/World/g0")
        x = UsdGeom.Xformable(o)
        x.ClearXformOpOrder()
        op(x, "translate", "late", random.Random(i), None, UsdGeom.XformOp.PrecisionDouble)
        keep(s)
        s = new(folder, f"specialized{i}.{ext}", i)
        base = s.DefinePrim("/Base", "Xform")
        base.SetActive(True)
        fill(s, "/Base", 400 + i)
        p = s.DefinePrim("/Shot", "Xform")
        p.GetSpecializes().AddSpecialize("/Base")
        keep(s)
    for version in ("0.4.0", "0.5.0", "0.6.0", "0.7.0", "0.8.0", "0.9.0", "0.10.0"):
        env = dict(os.environ, USD_WRITE_NEW_USDC_FILES_AS_VERSION=version)
        name = os.path.join(folder, f"version{version.replace('.', '_')}.usdc")
        code = (
            "import sys; sys.path.insert(0, sys.argv[2]); import corpus_usd as c\n"
            "import os; s = c.new(os.path.dirname(sys.argv[1]), os.path.basename(sys.argv[1]), 3)\n"
            "c.fill(s, '/World', 3); s.GetRootLayer().Save()\n"
        )
        done = subprocess.run(
            [os.sys.executable, "-c", code, name, os.path.dirname(__file__)], env=env, capture_output=True, text=True
        )
        if done.returncode == 0:
            made.append(name)
        else:
            print("not written:", version, done.stderr.strip().splitlines()[-1:])
    for i in range(2):
        out = os.path.join(folder, f"package{i}.usdz")
        UsdUtils.CreateNewUsdzPackage(Sdf.AssetPath(os.path.join(folder, f"referenced{i}.usdc")), out)
        made.append(out)
    s = new(folder, "block.usda", 1)
    fill(s, "/World", 77)
    weak = new(folder, "weak.usdc", 1)
    fill(weak, "/World", 78)
    keep(weak)
    s.GetRootLayer().subLayerPaths.append("./weak.usdc")
    keep(s)
    return made


def peer(path, frame=None):
    """Cameras, points and meshes as the library has them, at a frame or where the stage starts."""
    stage = Usd.Stage.Open(path)
    cameras, points, meshes = [], [], []
    start = stage.GetStartTimeCode()
    if frame is not None:
        start = frame * stage.GetTimeCodesPerSecond() / stage.GetFramesPerSecond()
    for p in stage.Traverse():
        world = UsdGeom.Xformable(p).ComputeLocalToWorldTransform(start) if p.IsA(UsdGeom.Xformable) else None
        if p.IsA(UsdGeom.Camera):
            cameras.append(p)
        elif p.IsA(UsdGeom.Points):
            points += [tuple(world.Transform(Gf.Vec3d(v))) for v in UsdGeom.Points(p).GetPointsAttr().Get(start)]
        elif p.IsA(UsdGeom.Mesh):
            pts = [world.Transform(Gf.Vec3d(v)) for v in UsdGeom.Mesh(p).GetPointsAttr().Get(start)]
            meshes.append((len(pts), [min(v[k] for v in pts) for k in range(3)], [max(v[k] for v in pts) for k in range(3)]))
        elif p.GetTypeName() == "Xform" and not p.GetChildren() and UsdGeom.Xformable(p).GetOrderedXformOps():
            points.append(tuple(world.ExtractTranslation()))
    return stage, cameras, points, meshes


def worst(a, b, size):
    return max((abs(x - y) for x, y in zip(a, b)), default=0) / size


def place(point, frame):
    """Of a point of ours at a frame; of one that moves, held outside its frames."""
    if "position" in point:
        return tuple(point["position"])
    k = frame - point["firstFrame"]
    return tuple(point["positions"][min(max(k, 0), len(point["positions"]) - 1)])


def compare(path, ours):
    stage, cameras, points, meshes = peer(path)
    size = max([1.0] + [abs(c) for p in points for c in p])
    if len(cameras) != len(ours["cameras"]):
        return f"{len(cameras)} cameras, we have {len(ours['cameras'])}"
    if len(points) != len(ours["points"]):
        return f"{len(points)} points, we have {len(ours['points'])}"
    if len(meshes) != len(ours["meshExtents"]):
        return f"{len(meshes)} meshes, we have {len(ours['meshExtents'])}"
    error = 0.0
    per_frame = stage.GetTimeCodesPerSecond() / stage.GetFramesPerSecond()
    first = round(stage.GetStartTimeCode() / per_frame)
    last = max(first, round(stage.GetEndTimeCode() / per_frame))
    moving = any("positions" in x for x in ours["points"])
    for frame in sorted({first, (first + last) // 2, last} if moving else {first}):
        there = peer(path, frame)[2]
        for p, q in zip(sorted(there), sorted(place(x, frame) for x in ours["points"])):
            error = max(error, worst(p, q, size))
    for m, q in zip(meshes, ours["meshExtents"]):
        if m[0] != q["points"]:
            return f"a mesh of {m[0]} points, we have {q['points']}"
        error = max(error, worst(m[1], q["least"], size), worst(m[2], q["most"], size))
    tenth = stage.GetMetadata("metersPerUnit") * 100
    for c, q in zip(cameras, ours["cameras"]):
        for pose in q["poses"]:
            code = Usd.TimeCode(pose["frame"] * stage.GetTimeCodesPerSecond() / stage.GetFramesPerSecond())
            m = UsdGeom.Xformable(c).ComputeLocalToWorldTransform(code)
            size = max(size, *(abs(x) for x in m.ExtractTranslation()))
            m.Orthonormalize(False)  # as the library's own frustum does
            view = -m.GetRow3(2)
            error = max(error, worst(m.ExtractTranslation(), pose["position"], size), worst(view, pose["view"], 1))
            cam = UsdGeom.Camera(c)
            f = cam.GetFocalLengthAttr().Get(code)
            w = cam.GetHorizontalApertureAttr().Get(code)
            ratio = pose["focalLengthMm"] / pose["filmBackMm"][0]
            error = max(error, abs(f / w - ratio) / ratio)
    return error


def run(root, folder):
    rows = []
    for path in write_corpus(folder):
        done = subprocess.run(
            [os.path.join(root, "flarvo"), "inspect", path, "--json", "--geometry"],
            capture_output=True, text=True, check=False,
        )
        name = os.path.basename(path)
        if done.returncode != 0:
            rows.append((name, "refused", done.stderr.strip()))
            continue
        result = compare(path, json.loads(done.stdout))
        ok = not isinstance(result, str) and result <= LIMIT
        rows.append((name, "agreed" if ok else "DIFFERS", result))
    return rows


if __name__ == "__main__":
    import sys
    import tempfile

    with tempfile.TemporaryDirectory() as d:
        d = sys.argv[2] if len(sys.argv) > 2 else d
        table = run(sys.argv[1], d)
    for r in table:
        if r[1] != "agreed":
            print(*r)
    print(sum(r[1] == "agreed" for r in table), "of", len(table), "agreed")
