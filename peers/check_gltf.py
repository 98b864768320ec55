"""Random glTF files, evaluated by a library that shows them in browsers."""

import json
import os
import subprocess
import sys
import tempfile

import gltf_scenes
from gltf_scenes import FIRST, LAST, RATE

FILES = 200
RELATIVE = 5e-6  # that library keeps the values of keys in 32-bit floats


def theirs(folder, paths):
    """By file: positions of nodes by name and frame, and of points and corners by place."""
    out = subprocess.run(
        ["node", os.path.join(folder, "dump.mjs"), str(RATE), str(FIRST), str(LAST), *paths],
        capture_output=True, text=True, check=True,
    ).stdout
    nodes, points, corners = {}, {}, {}
    for line in out.splitlines():
        if "\t" not in line:
            continue  # what the library warns of
        path, kind, name, number, *numbers = line.split("\t")
        numbers = [float(v) for v in numbers]
        if kind == "node":
            nodes.setdefault(path, {})[name, int(number)] = numbers[12:15]
        else:
            (points if kind == "point" else corners).setdefault(path, []).append(numbers)
    return nodes, points, corners


def ours(root, paths):
    """By file: what our program finds in it. It is started once for all."""
    done = subprocess.run(
        [os.path.join(root, "flarvo"), "inspect", *paths, "--geometry", "--json"],
        capture_output=True, text=True, check=False,
    )
    if not done.stdout.strip():
        raise SystemExit(done.stderr)
    scenes = json.loads(done.stdout)
    return {s["file"]: s for s in (scenes if isinstance(scenes, list) else [scenes])}


def at(point, frame):
    if "position" in point:
        return point["position"]
    track = point["positions"]
    return track[min(max(0, frame - point["firstFrame"]), len(track) - 1)]


def far(a, b):
    reach = max(10.0, *(abs(v) for v in a))
    return max(abs(x - y) for x, y in zip(a, b)) / reach


def compare(scene, names, nodes, points, corners):
    """The worst difference, and what is missing or too much."""
    found = {p["name"]: p for p in scene["points"]}
    worst, wrong = 0.0, []
    range_ = scene["claims"]
    first, last = int(range_.get("firstFrame", FIRST)), int(range_.get("lastFrame", FIRST))
    for (name, frame), where in nodes.items():
        if name not in names:
            continue
        if name not in found:
            wrong.append(f"{name} is missing")
        elif first <= frame <= last:
            worst = max(worst, far(where, at(found[name], frame)))
    loose = [p for p in scene["points"] if p["name"] not in names]
    if len(loose) != len(points):
        wrong.append(f"{len(loose)} points, not {len(points)}")
    for p, where in zip(loose, points):
        worst = max(worst, far(where, at(p, FIRST)))
    for extent, pick in (("least", min), ("most", max)):
        if corners and scene["meshExtents"]:
            mine = [pick(m[extent][k] for m in scene["meshExtents"] if extent in m) for k in range(3)]
            worst = max(worst, far([pick(c[k] for c in corners) for k in range(3)], mine))
    if "outside" in found:
        wrong.append("a node outside the scene came in")
    return worst, wrong


def main(root, folder):
    failed, worst, others = 0, 0.0, 0
    with tempfile.TemporaryDirectory() as temp:
        made = []
        for k in range(FILES):
            data, ending, names = gltf_scenes.document(k)
            path = os.path.join(temp, f"scene{k}{ending}")
            with open(path, "wb") as f:
                f.write(data)
            made.append((path, set(names)))
        nodes, points, corners = theirs(folder, [path for path, _ in made])
        scenes = ours(root, [path for path, _ in made])
        for path, names in made:
            if path not in scenes:
                failed += 1
                print(f"FAILED {os.path.basename(path)}: our program did not read it")
                continue
            if scenes[path]["claims"].get("rate", str(RATE)) != str(RATE):
                others += 1  # two keys alone may tell another rate, and then frames are others
                continue
            off, wrong = compare(
                scenes[path], names, nodes[path], points.get(path, []), corners.get(path, [])
            )
            worst = max(worst, off)
            if wrong or not off <= RELATIVE:
                failed += 1
                print(f"FAILED {os.path.basename(path)}: {off:.1e} {', '.join(wrong[:3])}")
    if others > FILES // 50:
        failed += 1
        print(f"FAILED: {others} files tell another rate")
    passed = FILES - failed - others
    print(
        f"{FILES} glTF files: {worst:.1e} relative; {passed} passed, {failed} failed,"
        f" {others} of another rate not compared"
    )
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(os.path.abspath(sys.argv[1]), sys.argv[2]))
