"""The peer check of Alembic: our archives, taken apart by a library that we did not write.

That library knows the container; what its numbers mean is worked out here, from the format's own
description: operations in order make a matrix, a camera looks along -Z, its core holds the focal
length in millimetres and apertures in centimetres. Pixels are compared with `flarvo pixels`.
"""

import csv
import json
import math
import os
import subprocess
import sys
import tempfile

from cart import FIRST, LAST, POINTS, document, truth

LIMIT_PX = 0.001
LIMIT_METRES = 1e-9  # transforms are doubles
LIMIT_CLOUD = 1e-6  # points are 32-bit floats about the first
WIDTH, HEIGHT = 960, 540


def flarvo(root, *words):
    done = subprocess.run(
        [os.path.join(root, "flarvo"), *words], capture_output=True, text=True, check=False
    )
    if done.returncode != 0:
        raise SystemExit(done.stderr)
    return done.stdout


def times(a, b):
    return [[sum(a[i][k] * b[k][j] for k in range(4)) for j in range(4)] for i in range(4)]


def unit():
    return [[1.0 if i == j else 0.0 for j in range(4)] for i in range(4)]


def turn(axis, degrees):
    """By the formula for a turn about any axis, on column vectors."""
    n = math.sqrt(sum(x * x for x in axis))
    x, y, z = (v / n for v in axis)
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    d = 1 - c
    m = unit()
    m[0][:3] = [c + x * x * d, x * y * d - z * s, x * z * d + y * s]
    m[1][:3] = [y * x * d + z * s, c + y * y * d, y * z * d - x * s]
    m[2][:3] = [z * x * d - y * s, z * y * d + x * s, c + z * z * d]
    return m


def matrix(ops, values):
    m, at = unit(), 0
    for op in ops:
        kind = int(op) >> 4
        local = unit()
        if kind == 0:
            for i in range(3):
                local[i][i] = values[at + i]
            at += 3
        elif kind == 1:
            for i in range(3):
                local[i][3] = values[at + i]
            at += 3
        elif kind == 2:
            local = turn(values[at:at + 3], values[at + 3])
            at += 4
        elif kind == 3:
            local = [[values[at + 4 * j + i] for j in range(4)] for i in range(4)]
            at += 16
        else:
            axis = [[1, 0, 0], [0, 1, 0], [0, 0, 1]][kind - 4]
            local = turn(axis, values[at])
            at += 1
        m = times(m, local)
    return m


def dump(tool, path):
    objects = {}
    out = subprocess.run([tool, path], capture_output=True, text=True, check=True).stdout
    for line in out.splitlines():
        name, schema, prop, sample, values = line.split("\t")
        o = objects.setdefault(name, {"schema": schema})
        o.setdefault(prop.rsplit("/", 1)[1], {})[int(sample)] = [float(v) for v in values.split()]
    return objects


def world(objects, name, sample):
    m = unit()
    parts = name.strip("/").split("/")
    for i in range(1, len(parts) + 1):
        o = objects.get("/" + "/".join(parts[:i]), {})
        if ".vals" in o:
            samples = o[".vals"]
            values = samples[min(sample, max(samples))]
            m = times(m, matrix(o[".ops"][0], values))
    return m


def inverse(m):
    """Of a turn and a shift."""
    r = unit()
    for i in range(3):
        for j in range(3):
            r[i][j] = m[j][i]
        r[i][3] = -sum(m[k][i] * m[k][3] for k in range(3))
    return r


def peer_pixels(objects):
    camera = next(n for n, o in objects.items() if "AbcGeom_Camera" in o["schema"])
    core = objects[camera][".core"]
    above = camera.rsplit("/", 1)[0]
    trackers = [
        n for n, o in objects.items()
        if "AbcGeom_Xform" in o["schema"] and ".vals" in o
        and not any(c != n and c.startswith(n + "/") for c in objects)
    ]
    frames = 1 + max(objects[above][".vals"])
    places = {n.rsplit("/", 1)[1]: world(objects, n, 0) for n in trackers}
    rows = {}
    for f in range(frames):
        focal, across, shift_x, up, shift_y = core[min(f, max(core))][:5]
        view = inverse(world(objects, camera, f))
        for name, m in places.items():
            p = [sum(view[i][j] * v for j, v in enumerate((m[0][3], m[1][3], m[2][3], 1)))
                 for i in range(3)]
            if p[2] < 0:
                x = (focal * p[0] / -p[2] / 10 - shift_x) / across + 0.5
                y = (focal * p[1] / -p[2] / 10 - shift_y) / up + 0.5
                rows[f, name] = x * WIDTH, (1 - y) * HEIGHT
    return rows


def moving_groups(root, tool, folder):
    """Every point of every group on every frame; the farthest that one is off, in metres."""
    source = os.path.join(folder, "cart.json")
    with open(source, "w", encoding="utf-8") as f:
        json.dump(document(), f)
    path = os.path.join(folder, "cart.abc")
    flarvo(root, "convert", source, "--to", "anim-yup-m", "--out", path)
    objects = dump(tool, path)
    worst, seen = 0.0, 0
    for name in objects:
        group, _, number = name.rsplit("/", 1)[1].rpartition("_")
        if group in POINTS and number.isdigit():
            for f in range(FIRST, LAST + 1):
                m = world(objects, name, f - FIRST)
                at = [m[0][3], m[1][3], m[2][3]]
                worst = max(worst, math.dist(at, truth(group, POINTS[group][int(number)], f)))
                seen += 1
    return worst if seen == 60 * 15 else float("nan")


def cloud(root, tool, folder, solve):
    """The same trackers as points and as locators; the farthest apart, in metres."""
    paths = {}
    for how, words in (("locators", []), ("points", ["--points", "trackers"])):
        paths[how] = os.path.join(folder, how + ".abc")
        flarvo(
            root, "convert", solve, "--from", "track-zup", "--to", "anim-yup-m",
            "--out", paths[how], *words,
        )
    objects = dump(tool, paths["locators"])
    places = {}
    for name in objects:
        m = world(objects, name, 0)
        places[name.rsplit("/", 1)[1]] = [m[i][3] for i in range(3)]
    rows, shift = {}, None
    said = subprocess.run([tool, paths["points"]], capture_output=True, text=True, check=True)
    for line in said.stdout.splitlines():
        name, schema, prop, _, values = line.split("\t")
        if schema == "cloud":
            rows[prop.rsplit("/", 1)[1]] = values.split(" ")
        elif name == "/trackers" and prop.endswith(".vals"):
            shift = [float(v) for v in values.split()]
    worst = 0.0
    for i, name in enumerate(rows["name"]):
        at = [shift[k] + float(rows["P"][3 * i + k]) for k in range(3)]
        worst = max(worst, math.dist(at, places[name]))
    whole = len(rows["name"]) == 113 and rows[".pointIds"] == [str(i + 1) for i in range(113)]
    return worst if whole else float("nan")


def main(root, tool):
    solve = os.path.join(
        root, "demo/meridian/mer_010_terrace/solve/mer_010_terrace_solve.usda"
    )
    passed = failed = 0
    with tempfile.TemporaryDirectory() as folder:
        out = os.path.join(folder, "source.csv")
        flarvo(root, "pixels", solve, "--size", f"{WIDTH}x{HEIGHT}", "--out", out)
        with open(out, newline="", encoding="utf-8") as f:
            rows = [r for r in csv.DictReader(f) if r["x"]]
        first = min(int(r["frame"]) for r in rows)
        truth = {
            (int(r["frame"]) - first, r["tracker"]): (float(r["x"]), float(r["y"])) for r in rows
        }
        for d in json.loads(flarvo(root, "dialects", "--json")):
            path = os.path.join(folder, d["name"] + ".abc")
            flarvo(root, "convert", solve, "--from", "track-zup", "--to", d["name"], "--out", path)
            found = peer_pixels(dump(tool, path))
            both = truth.keys() & found.keys()
            worst = max(
                max(abs(found[k][0] - truth[k][0]), abs(found[k][1] - truth[k][1])) for k in both
            ) if both else float("nan")
            holds = worst <= LIMIT_PX and truth.keys() == found.keys()
            passed += holds
            failed += not holds
            print(
                f"{'passed' if holds else 'FAILED'} alembic {d['name']}: {worst:.7f} px,"
                f" {len(both)} of {len(truth)} projections"
            )
        worst = moving_groups(root, tool, folder)
        passed += worst <= LIMIT_METRES
        failed += not worst <= LIMIT_METRES
        word = "passed" if worst <= LIMIT_METRES else "FAILED"
        print(f"{word} alembic, moving groups: {worst:.2e} m, 60 frames")
        off = cloud(root, tool, folder, solve)
        holds = off <= LIMIT_CLOUD
        passed += holds
        failed += not holds
        print(f"{'passed' if holds else 'FAILED'} alembic, a cloud of points: {off:.2e} m")
    print(f"{passed} passed, {failed} failed")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(os.path.abspath(sys.argv[1]), sys.argv[2]))
