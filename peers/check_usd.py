"""Random USD stages with what writers rarely use, read by the reference library and by ours.

Compared are places and directions relative to the scene's size, and what a lens of 1920 pixels makes of
them: pixels of every point in every camera on every frame.
"""

import json
import os
import random
import subprocess
import sys
import tempfile

from pxr import Gf, Sdf, Ts, Usd, UsdGeom

FIRST, LAST = 1001, 1012
PIXELS = 0.001
WIDTH = 1920
ROUNDING = 9 / 2**23
PLACES = ("Xform", "Sphere", "Cube", "Cone")
STAGES, BATCH = 500, 50


def vector(r, most):
    return Gf.Vec3d(*(r.uniform(-most, most) for _ in range(3)))


def turn(r):
    return Gf.Rotation(Gf.Vec3d(r.gauss(0, 1), r.gauss(0, 1), r.gauss(0, 1)), r.uniform(0, 360))


def times(r):
    """A few times, some off the frames, few enough that most frames lie between."""
    return sorted(r.sample([FIRST + k / 2 for k in range(2 * (LAST - FIRST))], r.randint(2, 5)))


def set_values(r, op, make, blocks):
    if r.random() < 0.5:
        op.Set(make())
        return
    for t in times(r):
        if blocks and r.random() < 0.15:
            op.GetAttr().Set(Sdf.ValueBlock(), t)
        else:
            op.Set(make(), t)


def add_op(r, x, kind, suffix, still, blocks=True):
    P = UsdGeom.XformOp.PrecisionDouble
    axis = r.choice("XYZ")
    add, make = {
        "translate": (lambda: x.AddTranslateOp(P, suffix), lambda: vector(r, 4)),
        "translate1": (lambda: getattr(x, f"AddTranslate{axis}Op")(P, suffix), lambda: r.uniform(-4, 4)),
        "scale": (lambda: x.AddScaleOp(P, suffix), lambda: Gf.Vec3d(*(r.uniform(0.6, 1.6) for _ in range(3)))),
        "scale1": (lambda: getattr(x, f"AddScale{axis}Op")(P, suffix), lambda: r.uniform(0.6, 1.6)),
        "rotate1": (lambda: getattr(x, f"AddRotate{axis}Op")(P, suffix), lambda: r.uniform(-180, 180)),
        "rotate": (lambda: x.AddRotateYXZOp(P, suffix), lambda: vector(r, 180)),
        "orient": (lambda: x.AddOrientOp(P, suffix), lambda: turn(r).GetQuat()),
        "transform": (
            lambda: x.AddTransformOp(P, suffix),
            lambda: Gf.Matrix4d().SetRotate(turn(r)) * Gf.Matrix4d().SetTranslate(vector(r, 4)),
        ),
    }[kind]
    op = add()
    if still:
        op.Set(make())
    else:
        set_values(r, op, make, blocks)


def stack(r, prim, scaled, blocks=True):
    x = UsdGeom.Xformable(prim)
    kinds = ["translate", "translate1", "rotate1", "rotate", "orient", "transform"]
    kinds += ["scale", "scale1"] if scaled else []
    for i in range(r.randint(1, 3)):
        add_op(r, x, r.choice(kinds), f"s{i}", False, blocks)


def not_a_transform(stage, path, r):
    """A prim with a transform that does not count, for its type has none."""
    prim = stage.DefinePrim(path, r.choice(["Scope", "", "Material"]))
    prim.CreateAttribute("xformOp:translate", Sdf.ValueTypeNames.Double3).Set(vector(r, 9))
    prim.CreateAttribute("xformOpOrder", Sdf.ValueTypeNames.TokenArray).Set(["xformOp:translate"])
    return path


def fill(stage, root, r):
    parent = root
    for depth in range(r.randint(1, 3)):
        parent += f"/g{depth}"
        if r.random() < 0.25:
            not_a_transform(stage, parent, r)
        else:
            stack(r, UsdGeom.Xform.Define(stage, parent), True)
    for i in range(4):
        p = UsdGeom.Xform.Define(stage, f"{parent}/loc{i}")
        add_op(r, UsdGeom.Xformable(p), "translate", "", r.random() < 0.5, blocks=False)
    # The camera hangs beside what scales: ours are rigid, and a scaled one would be another camera.
    holder = root + "/rig"
    stack(r, UsdGeom.Xform.Define(stage, holder), False, blocks=False)
    cam = UsdGeom.Camera.Define(stage, holder + "/cam")
    add_op(r, UsdGeom.Xformable(cam), "translate", "", False, blocks=False)
    add_op(r, UsdGeom.Xformable(cam), "orient", "", False)
    cam.GetHorizontalApertureAttr().Set(36.0)
    cam.GetVerticalApertureAttr().Set(20.25)
    focal = cam.GetFocalLengthAttr()
    kind = r.random()
    if kind < 0.6:
        for t in times(r):
            focal.Set(Sdf.ValueBlock() if r.random() < 0.2 else r.uniform(18, 80), t)
    elif kind < 0.8:
        focal.Block()


def head(stage, r):
    UsdGeom.SetStageUpAxis(stage, r.choice(["Y", "Z"]))
    UsdGeom.SetStageMetersPerUnit(stage, 0.01)
    stage.SetTimeCodesPerSecond(24)
    stage.SetFramesPerSecond(24)
    stage.SetStartTimeCode(FIRST)
    stage.SetEndTimeCode(LAST)


def commented(path, r):
    """Comments of all three kinds and statements of order between the lines of a text layer."""
    with open(path, encoding="utf-8") as f:
        lines = f.read().split("\n")
    out = [lines[0]]
    for line in lines[1:]:
        if r.random() < 0.1 and not line.strip().startswith(")"):
            out.append(r.choice(["# one", "// two { (", "/* three\n } */"]))
        out.append(line)
        if line == "{" or line.strip() == "{":
            out.append('reorder nameChildren = ["rig",\n "g0"]')
    with open(path, "w", encoding="utf-8") as f:
        f.write("\n".join(out))


def relocated(stage, folder, k, r):
    """An asset of which one place is moved under another prim, and another is taken away."""
    asset = Usd.Stage.CreateNew(os.path.join(folder, f"asset{k}.{r.choice(['usda', 'usdc'])}"))
    head(asset, r)
    stack(r, UsdGeom.Xform.Define(asset, "/A"), True)
    stack(r, UsdGeom.Xform.Define(asset, "/A/in"), True)
    for name in ("moves", "goes", "stays"):
        place = UsdGeom.Xform.Define(asset, f"/A/in/{name}")
        add_op(r, UsdGeom.Xformable(place), "translate", "", r.random() < 0.5, blocks=False)
    asset.GetRootLayer().Save()
    prim = UsdGeom.Xform.Define(stage, "/World/asset").GetPrim()
    prim.GetReferences().AddReference("./" + os.path.basename(asset.GetRootLayer().realPath), "/A")
    stack(r, UsdGeom.Xform.Define(stage, "/World/elsewhere"), True)
    there = r.choice(["/World/elsewhere/moved", "/World/moved"])
    stage.GetRootLayer().relocates = [
        (Sdf.Path("/World/asset/in/moves"), Sdf.Path(there)),
    ]
    if stage.GetRootLayer().GetFileFormat().formatId == "usdc":  # text layers cannot say nowhere
        stage.GetRootLayer().relocates += [(Sdf.Path("/World/asset/in/goes"), Sdf.Path())]
    if r.random() < 0.5:  # what the stage itself says of the place it went to is stronger
        over = UsdGeom.Xformable(stage.OverridePrim(there))
        attr = over.GetPrim().CreateAttribute("xformOp:translate", Sdf.ValueTypeNames.Double3)
        attr.Set(vector(r, 4))


def relocated_inside(stage, folder, k, r):
    """An asset that moves what it refers to itself, referenced once or twice, and moved on by the stage."""
    geo = Usd.Stage.CreateNew(os.path.join(folder, f"geo{k}.usda"))
    head(geo, r)
    stack(r, UsdGeom.Xform.Define(geo, "/G"), True)
    stack(r, UsdGeom.Xform.Define(geo, "/G/deep"), True)
    for name in ("far", "near", "off"):
        place = UsdGeom.Xform.Define(geo, f"/G/deep/{name}")
        add_op(r, UsdGeom.Xformable(place), "translate", "", r.random() < 0.5, blocks=False)
    sets = geo.GetPrimAtPath("/G").GetVariantSets().AddVariantSet("v")
    for name in ("one", "two"):
        sets.AddVariant(name)
        sets.SetVariantSelection(name)
        with sets.GetVariantEditContext():
            place = UsdGeom.Xform.Define(geo, f"/G/deep/chosen")
            add_op(r, UsdGeom.Xformable(place), "translate", "", True)
    geo.GetRootLayer().Save()
    rig = Usd.Stage.CreateNew(os.path.join(folder, f"rig{k}.{r.choice(['usda', 'usdc'])}"))
    head(rig, r)
    stack(r, UsdGeom.Xform.Define(rig, "/R"), True)
    rig.SetDefaultPrim(rig.GetPrimAtPath("/R"))
    stack(r, UsdGeom.Xform.Define(rig, "/R/out"), True)
    inside = UsdGeom.Xform.Define(rig, "/R/in").GetPrim()
    inside.GetReferences().AddReference(f"./geo{k}.usda", "/G")
    moves = [(Sdf.Path("/R/in/deep/far"), Sdf.Path(r.choice(["/R/out/far", "/R/far", "/R/in/far"])))]
    if r.random() < 0.5:
        moves.append((Sdf.Path("/R/in/deep/chosen"), Sdf.Path("/R/out/chosen")))
    if rig.GetRootLayer().GetFileFormat().formatId == "usdc" and r.random() < 0.5:
        moves.append((Sdf.Path("/R/in/deep/off"), Sdf.Path()))
    rig.GetRootLayer().relocates = moves
    if r.random() < 0.5:
        over = UsdGeom.Xformable(rig.OverridePrim(moves[0][1]))
        over.GetPrim().CreateAttribute("xformOp:translate", Sdf.ValueTypeNames.Double3).Set(vector(r, 4))
    rig.GetRootLayer().Save()
    prim = UsdGeom.Xform.Define(stage, "/World/rig").GetPrim()
    offset = Sdf.LayerOffset(r.choice([0, 2]), r.choice([1, 0.5]))
    prim.GetReferences().AddReference("./" + os.path.basename(rig.GetRootLayer().realPath), "", offset)
    there = str(moves[0][1]).replace("/R", "/World/rig", 1)
    if r.random() < 0.5:
        stage.OverridePrim("/World/rig/in").GetVariantSets().SetSelection("v", r.choice(["one", "two"]))
    if r.random() < 0.3:
        over = UsdGeom.Xformable(stage.OverridePrim(there))
        over.GetPrim().CreateAttribute("xformOp:translate", Sdf.ValueTypeNames.Double3).Set(vector(r, 4))
    if r.random() < 0.4:
        stack(r, UsdGeom.Xform.Define(stage, "/World/beyond"), True)
        stage.GetRootLayer().relocates = list(stage.GetRootLayer().relocates) + [
            (Sdf.Path(there), Sdf.Path("/World/beyond/again")),
            (Sdf.Path("/World/rig/in/deep/near"), Sdf.Path("/World/near")),
        ][: r.randint(1, 2)]


def by_variables(stage, folder, k, r):
    """A reference and a variant that are chosen by expressions over variables."""
    for which in ("one", "two"):
        part = Usd.Stage.CreateNew(os.path.join(folder, f"part{k}_{which}.usda"))
        head(part, r)
        UsdGeom.Xform.Define(part, "/P")
        for name in ("p", "q"):
            place = UsdGeom.Xform.Define(part, f"/P/{which}_{name}")
            add_op(r, UsdGeom.Xformable(place), "translate", "", True)
        part.GetRootLayer().Save()
    which = r.choice(["one", "two"])
    stage.GetRootLayer().expressionVariables = {"WHICH": which, "DEEP": "`${WHICH}`", "N": 3}
    text = r.choice([
        f'`"./part{k}_${{WHICH}}.usda"`',
        f'`"./part{k}_${{DEEP}}.usda"`',
        f"`if(eq(${{WHICH}}, 'one'), './part{k}_one.usda', './part{k}_two.usda')`",
        f"`if(and(defined('N'), gt(${{N}}, 2)), at(['./part{k}_two.usda', './part{k}_one.usda'], 1), 'none')`",
    ])
    prim = UsdGeom.Xform.Define(stage, "/World/by").GetPrim()
    prim.GetReferences().AddReference(text, "/P")
    sets = UsdGeom.Xform.Define(stage, "/World/set").GetPrim().GetVariantSets()
    chosen = sets.AddVariantSet("v")
    for name in ("one", "two"):
        chosen.AddVariant(name)
        chosen.SetVariantSelection(name)
        with chosen.GetVariantEditContext():
            place = UsdGeom.Xform.Define(stage, f"/World/set/v_{name}")
            add_op(r, UsdGeom.Xformable(place), "translate", "", True)
    stage.GetRootLayer().GetPrimAtPath("/World/set").variantSelections["v"] = "`${WHICH}`"


def clipped(stage, folder, k, r):
    """Places whose values lie in other layers, one after the other."""
    names = ["c0", "c1", "c2"]
    count = r.randint(2, 3)
    template = r.random() < 0.4
    starts = [FIRST + i * (LAST - FIRST) // count + (0 if template else r.choice([0, 0.5])) for i in range(count)]
    starts[0] = FIRST + r.choice([0, 0, 1, 2.5])
    if template:
        stride = r.randint(3, 5)
        starts = [FIRST + i * stride for i in range(count)]
    paths = []
    for i in range(count):
        name = f"clip{k}.{starts[i]:05d}.usda" if template else f"clip{k}_{i}.usda"
        part = Usd.Stage.CreateNew(os.path.join(folder, name))
        head(part, r)
        UsdGeom.Xform.Define(part, "/M")
        for n in names:
            place = UsdGeom.Xformable(UsdGeom.Xform.Define(part, f"/M/{n}"))
            op = place.AddTranslateOp()
            for t in sorted(r.sample([FIRST - 5 + q / 2 for q in range(40)], r.randint(1, 6))):
                op.Set(vector(r, 4), t)
        part.GetRootLayer().Save()
        paths.append(Sdf.AssetPath("./" + name))
    manifest = Usd.Stage.CreateNew(os.path.join(folder, f"manifest{k}.usda"))
    for n in names:
        UsdGeom.Xform.Define(manifest, f"/M/{n}").AddTranslateOp()
    manifest.GetRootLayer().Save()
    holder = UsdGeom.Xform.Define(stage, "/World/clipped").GetPrim()
    for n in names:
        place = UsdGeom.Xform.Define(stage, f"/World/clipped/{n}").GetPrim()
        attr = place.CreateAttribute("xformOp:translate", Sdf.ValueTypeNames.Double3)
        order = place.CreateAttribute("xformOpOrder", Sdf.ValueTypeNames.TokenArray, False, Sdf.VariabilityUniform)
        order.Set(["xformOp:translate"])
        if n == "c2" and r.random() < 0.5:
            attr.Set(vector(r, 4))  # what the layer itself says is stronger
    api = Usd.ClipsAPI(holder)
    api.SetClipPrimPath("/M")
    api.SetClipManifestAssetPath(f"./manifest{k}.usda")
    if template:
        api.SetClipTemplateAssetPath(f"./clip{k}.#####.usda")
        api.SetClipTemplateStartTime(starts[0])
        api.SetClipTemplateEndTime(starts[-1])
        api.SetClipTemplateStride(stride)
        if r.random() < 0.6:
            api.SetClipTemplateActiveOffset(r.choice([-stride, -1.5, -0.5, 0.5, 1, 2.25]))
        return
    api.SetClipAssetPaths(paths)
    api.SetClipActive([(t, i) for i, t in enumerate(starts)])
    if r.random() < 0.7:
        knots = sorted(r.sample([FIRST + q / 2 for q in range(2 * (LAST - FIRST))], r.randint(2, 4)))
        api.SetClipTimes([(t, r.uniform(FIRST - 4, LAST + 4)) for t in knots])


def splines(stage, r):
    """Places that run along splines of all ways from knot to knot."""
    crate = stage.GetRootLayer().GetFileFormat().formatId == "usdc"
    for n in ("s0", "s1"):
        place = UsdGeom.Xformable(UsdGeom.Xform.Define(stage, f"/World/{n}"))
        for axis in "XY":
            op = getattr(place, f"AddTranslate{axis}Op")()
            spline = Ts.Spline("double")
            if r.random() < 0.3:
                spline.SetCurveType(Ts.CurveTypeHermite)
            knots = times(r)
            loops = len(knots) > 1 and r.random() < 0.3  # what stands from a knot on stands there again
            gap = 0.2 if loops else min((b - a for a, b in zip(knots, knots[1:])), default=1)
            for t in knots:
                way = r.choice([Ts.InterpHeld, Ts.InterpLinear, Ts.InterpCurve, Ts.InterpCurve])
                knot = Ts.Knot("double", time=t, value=r.uniform(-4, 4), nextInterp=way)
                knot.SetPreTanSlope(r.uniform(-2, 2))
                knot.SetPostTanSlope(r.uniform(-2, 2))
                if spline.GetCurveType() != Ts.CurveTypeHermite:
                    knot.SetPreTanWidth(r.uniform(0.05, 0.45) * gap)
                    knot.SetPostTanWidth(r.uniform(0.05, 0.45) * gap)
                if r.random() < 0.2:
                    knot.SetPreValue(r.uniform(-4, 4))
                spline.SetKnot(knot)
            beyonds = [Ts.ExtrapHeld, Ts.ExtrapSloped, Ts.ExtrapLoopRepeat, Ts.ExtrapLoopReset]
            if loops:
                loop = Ts.LoopParams()
                loop.protoStart = r.choice(knots[:-1])
                loop.protoEnd = loop.protoStart + r.choice([1.3, 2.7, 4.3])
                loop.numPreLoops, loop.numPostLoops = r.randint(0, 2), r.randint(0, 3)
                loop.valueOffset = r.choice([0, r.uniform(-1, 1)])
                spline.SetInnerLoopParams(loop)
            else:  # with a loop inside, the library leans for these on the knots as they were without it
                beyonds += [Ts.ExtrapLinear, Ts.ExtrapValueBlock, Ts.ExtrapLoopOscillate]
            for set_it in (spline.SetPreExtrapolation, spline.SetPostExtrapolation):
                beyond = Ts.Extrapolation(r.choice(beyonds))
                # The library writes three bits of this into a crate and reads two back.
                if crate and set_it == spline.SetPostExtrapolation and beyond.IsLooping():
                    beyond = Ts.Extrapolation(Ts.ExtrapHeld)
                if beyond.mode == Ts.ExtrapSloped:
                    beyond.slope = round(r.uniform(-1, 1), 3)
                set_it(beyond)
            op.GetAttr().SetSpline(spline)


def instanced(stage, r):
    """Points of an instancer, some moving; its prototypes stand nowhere by themselves."""
    stack(r, UsdGeom.Xform.Define(stage, "/World/many"), True)
    inst = UsdGeom.PointInstancer.Define(stage, "/World/many/inst")
    add_op(r, UsdGeom.Xformable(inst), "translate", "", r.random() < 0.5, blocks=False)
    shape = UsdGeom.Cube.Define(stage, "/World/many/inst/Prototypes/cube")
    inst.CreatePrototypesRel().AddTarget(shape.GetPath())
    n = r.randint(1, 5)
    inst.CreateProtoIndicesAttr([0] * n)
    at = inst.CreatePositionsAttr()
    some = lambda: [Gf.Vec3f(*vector(r, 9)) for _ in range(n)]
    if r.random() < 0.5:
        at.Set(some())
    else:
        for t in times(r):
            at.Set(some(), t)


def shapes(stage, r):
    for i, kind in enumerate([UsdGeom.Sphere, UsdGeom.Cube, UsdGeom.Cone]):
        add_op(r, UsdGeom.Xformable(kind.Define(stage, f"/World/shape{i}")), "translate", "", r.random() < 0.5,
               blocks=False)


def write(folder, k):
    r = random.Random(k)
    ending = "usdc" if k % 2 else "usda"
    path = os.path.join(folder, f"stage{k}.{ending}")
    stage = Usd.Stage.CreateNew(path)
    head(stage, r)
    UsdGeom.Xform.Define(stage, "/World")
    fill(stage, "/World", r)
    if r.random() < 0.3:
        relocated(stage, folder, k, r)
    if r.random() < 0.4:
        relocated_inside(stage, folder, k, r)
    if r.random() < 0.3:
        by_variables(stage, folder, k, r)
    if r.random() < 0.4:
        clipped(stage, folder, k, r)
    if r.random() < 0.4:
        splines(stage, r)
    if r.random() < 0.3:
        instanced(stage, r)
    if r.random() < 0.3:
        shapes(stage, r)
    stage.GetRootLayer().Save()
    if ending == "usda":
        commented(path, r)
    return path


def pixel(view, up, eye, focal, width, point):
    """Where a point is seen on a picture of 1920 pixels; None behind the camera."""
    d = Gf.Vec3d(*point) - eye
    depth = d * view
    if depth < 0.5:
        return None
    side = Gf.Cross(view, up)
    px = WIDTH * focal / width / depth
    return d * side * px, d * up * px


def upright(matrix):
    """The axes of a camera as the library's own frustum takes them, with one more round.

    The library's rounds end at 1e-6, which is hundredths of a pixel; a round squares what is left.
    """
    m = Gf.Matrix4d(matrix)
    m.Orthonormalize(False)
    a = [m.GetRow3(i) for i in range(3)]
    return [
        (a[i] - 0.5 * sum((Gf.Dot(a[j], a[i]) * a[j] for j in range(3) if j != i), Gf.Vec3d(0))).GetNormalized()
        for i in range(3)
    ]


def theirs(path):
    stage = Usd.Stage.Open(path)
    hidden = [str(p.GetPath()) for p in stage.Traverse() if p.IsA(UsdGeom.PointInstancer)]
    points = [
        p for p in stage.Traverse()
        if p.GetTypeName() in PLACES and not p.GetChildren() and UsdGeom.Xformable(p).GetOrderedXformOps()
        and not any(str(p.GetPath()).startswith(h + "/") for h in hidden)
    ]
    cameras = [p for p in stage.Traverse() if p.IsA(UsdGeom.Camera)]
    out = {}
    for f in range(FIRST, LAST + 1):
        at = {p.GetName(): UsdGeom.Xformable(p).ComputeLocalToWorldTransform(f).ExtractTranslation() for p in points}
        for i in [p for p in stage.Traverse() if p.IsA(UsdGeom.PointInstancer)]:
            world = UsdGeom.Xformable(i).ComputeLocalToWorldTransform(f)
            own = UsdGeom.PointInstancer(i).ComputeInstanceTransformsAtTime(f, f)
            for k, m in enumerate(own):
                at[f"{i.GetName()}_{k + 1}"] = (m * world).ExtractTranslation()
        for c in cameras:
            m = UsdGeom.Xformable(c).ComputeLocalToWorldTransform(f)
            cam = UsdGeom.Camera(c)
            axes = upright(m)
            out[c.GetName(), f] = (
                -axes[2], axes[1], m.ExtractTranslation(),
                cam.GetFocalLengthAttr().Get(f) or 50.0, cam.GetHorizontalApertureAttr().Get(f), at,
            )
    return out


def ours(root, paths):
    done = subprocess.run(
        [os.path.join(root, "flarvo"), "inspect", *paths, "--json", "--geometry"],
        capture_output=True, text=True, check=False,
    )
    if not done.stdout.strip():
        raise SystemExit(done.stderr)
    scenes = json.loads(done.stdout)
    return {s["file"]: s for s in (scenes if isinstance(scenes, list) else [scenes])}


def place(point, frame):
    if "position" in point:
        return point["position"]
    k = frame - point["firstFrame"]
    return point["positions"][min(max(k, 0), len(point["positions"]) - 1)]


def compare(path, scene):
    """The worst pixel, or what does not fit."""
    a = theirs(path)
    points = {p["name"]: p for p in scene["points"]}
    worst, seen = 0.0, 0
    for c in scene["cameras"]:
        for pose in c["poses"]:
            f = pose["frame"]
            key = (c["name"], f)
            if key not in a:
                return f"camera {key} is not there"
            view, up, eye, focal, width, at = a[key]
            mine = Gf.Vec3d(*pose["view"]), Gf.Vec3d(*pose["up"]), Gf.Vec3d(*pose["position"])
            if sorted(points) != sorted(at):
                return f"points {sorted(points)}, not {sorted(at)}"
            for name, there in at.items():
                p = pixel(view, up, eye, focal, width, there)
                q = pixel(*mine, pose["focalLengthMm"], pose["filmBackMm"][0], place(points[name], f))
                if p is None or abs(p[0]) > 4 * WIDTH or abs(p[1]) > 4 * WIDTH:
                    continue
                if q is None:
                    return f"{name} at {f} is behind our camera"
                seen += 1
                off = max(abs(p[0] - q[0]), abs(p[1] - q[1]))
                if name.startswith("inst_"):
                    # The library interpolates these arrays with 32 bits.
                    depth = (Gf.Vec3d(*there) - eye) * view
                    off -= ROUNDING * WIDTH * focal / width / depth
                worst = max(worst, off)
    if {c for c, _ in a} != {c["name"] for c in scene["cameras"]}:
        return "a camera is missing"
    return worst


def main(root):
    failed, worst = 0, 0.0
    with tempfile.TemporaryDirectory() as folder:
        paths = [write(folder, k) for k in range(STAGES)]
        for i in range(0, len(paths), BATCH):
            scenes = ours(root, paths[i : i + BATCH])
            for path in paths[i : i + BATCH]:
                result = compare(path, scenes[path]) if path in scenes else "refused"
                if isinstance(result, str) or not result <= PIXELS:
                    failed += 1
                    print("FAILED", os.path.basename(path), result)
                else:
                    worst = max(worst, result)
    print(f"{STAGES} stages: {worst:.1e} px; {STAGES - failed} passed, {failed} failed")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(os.path.abspath(sys.argv[1])))
