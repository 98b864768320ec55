"""Random glTF files: trees, matrices, animations of every way, sparse and whole numbers, points."""

import base64
import json
import math
import random
import struct

RATE, FIRST, LAST = 24, 0, 24
FLOAT, BYTE, SHORT, USHORT = 5126, 5120, 5122, 5123
PACK = {FLOAT: "f", BYTE: "b", SHORT: "h", USHORT: "H"}


def matrix(t, q, s):
    """Column after column; without shear, which the other reader does not keep."""
    x, y, z, w = q
    rows = [
        [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
        [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
        [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
    ]
    return [v for c in range(3) for v in [rows[r][c] * s[c] for r in range(3)] + [0]] + t + [1]


class Scene:
    """One file while it is made."""

    def __init__(self, seed):
        self.rng = random.Random(seed)
        self.bytes = bytearray()
        self.doc = {
            "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": []}], "nodes": [],
            "meshes": [], "cameras": [], "bufferViews": [], "accessors": [], "animations": [],
        }
        self.names = []

    def view(self, data):
        while len(self.bytes) % 4:
            self.bytes.append(0)
        self.doc["bufferViews"].append(
            {"buffer": 0, "byteOffset": len(self.bytes), "byteLength": len(data)}
        )
        self.bytes += data
        return len(self.doc["bufferViews"]) - 1

    def accessor(self, kind, rows, component=FLOAT, normalized=False, sparse=False, bounds=False):
        flat = [v for row in rows for v in row]
        pack = lambda values: struct.pack(f"<{len(values)}{PACK[component]}", *values)
        a = {"componentType": component, "count": len(rows), "type": kind}
        if normalized:
            a["normalized"] = True
        if bounds:
            stored = [struct.unpack("<f", struct.pack("<f", v))[0] for v in flat]
            n = len(rows[0])
            a["min"] = [min(stored[i::n]) for i in range(n)]
            a["max"] = [max(stored[i::n]) for i in range(n)]
        if sparse:
            # Some entries stand in the sparse part; the base has zeros or noise there, or is missing.
            n = len(rows[0])
            based = self.rng.random() < 0.5
            which = sorted(self.rng.sample(range(len(rows)), self.rng.randint(1, len(rows))))
            if not based:
                which = [i for i, row in enumerate(rows) if any(row)] or [0]
            base = [list(row) if i not in which else [0] * n for i, row in enumerate(rows)]
            if based:
                a["bufferView"] = self.view(pack([v for row in base for v in row]))
            a["sparse"] = {
                "count": len(which),
                "indices": {
                    "bufferView": self.view(struct.pack(f"<{len(which)}H", *which)),
                    "componentType": USHORT,
                },
                "values": {"bufferView": self.view(pack([v for i in which for v in rows[i]]))},
            }
        else:
            a["bufferView"] = self.view(pack(flat))
        self.doc["accessors"].append(a)
        return len(self.doc["accessors"]) - 1

    def vector(self, most, n=3):
        return [self.rng.uniform(-most, most) for _ in range(n)]

    def turn(self):
        q = [self.rng.gauss(0, 1) for _ in range(4)]
        length = math.sqrt(sum(v * v for v in q))
        return [v / length for v in q]

    def scale(self):
        return [self.rng.uniform(0.5, 2) for _ in range(3)]

    def node(self, name, parent, still=False):
        rng = self.rng
        n = {"name": name}
        number = len(self.doc["nodes"])
        self.doc["nodes"].append(n)
        if not still and rng.random() < 0.2:
            n["matrix"] = matrix(self.vector(5), self.turn(), self.scale())
        else:
            n["translation"] = self.vector(5)
            if rng.random() < 0.7:
                n["rotation"] = self.turn()
            if rng.random() < 0.4:
                n["scale"] = self.scale()
            for path in ("translation", "rotation", "scale"):
                if not still and rng.random() < 0.3:
                    self.animate(number, path)
        if parent is None:
            self.doc["scenes"][0]["nodes"].append(number)
        elif parent >= 0:
            self.doc["nodes"][parent].setdefault("children", []).append(number)
        return number

    def animate(self, number, path):
        rng = self.rng
        n = rng.randint(1, 6)
        way = rng.choice(["STEP", "LINEAR", "CUBICSPLINE"])
        times = sorted(rng.sample(range(FIRST * 2, LAST * 2), n))
        make = {"translation": lambda: self.vector(5), "rotation": self.turn, "scale": self.scale}[path]
        rows = [make() for _ in times]
        component, normalized = FLOAT, False
        if path == "rotation" and way != "CUBICSPLINE" and rng.random() < 0.5:
            component, normalized = rng.choice([(BYTE, True), (SHORT, True)])
            most = 127 if component == BYTE else 32767
            # Half turns, which whole numbers hold exactly: the other reader does not normalise.
            rows = [[most if k == i else 0 for k in range(4)] for i in [rng.randrange(4) for _ in rows]]
        if way == "CUBICSPLINE":
            width = len(rows[0])
            slope = 0.5 if path == "scale" else 3
            rows = [r for row in rows for r in (self.vector(slope, width), row, self.vector(slope, width))]
        if not self.doc["animations"]:
            self.doc["animations"].append({"name": "a", "channels": [], "samplers": []})
        a = self.doc["animations"][0]
        a["samplers"].append({
            "input": self.accessor("SCALAR", [[t / 2 / RATE] for t in times], bounds=True),
            "output": self.accessor(
                "VEC4" if path == "rotation" else "VEC3", rows, component, normalized,
                sparse=component == FLOAT and rng.random() < 0.2,
            ),
            "interpolation": way,
        })
        a["channels"].append({"sampler": len(a["samplers"]) - 1, "target": {"node": number, "path": path}})

    def mesh(self, mode):
        rng = self.rng
        count = rng.randint(3, 9)
        primitive = {
            "mode": mode,
            "attributes": {
                "POSITION": self.accessor(
                    "VEC3", [self.vector(2) for _ in range(count)], sparse=rng.random() < 0.3, bounds=True
                )
            },
        }
        if rng.random() < 0.5:
            which = [[rng.randrange(count)] for _ in range(3 * rng.randint(1, 3))]
            primitive["indices"] = self.accessor("SCALAR", which, USHORT)
        self.doc["meshes"].append({"name": f"m{len(self.doc['meshes'])}", "primitives": [primitive]})
        return len(self.doc["meshes"]) - 1

    def finish(self):
        doc = {k: v for k, v in self.doc.items() if v != [] or k == "nodes"}
        doc["buffers"] = [{"byteLength": len(self.bytes)}]
        return doc


def document(seed):
    """A file's bytes, its ending, and the names of the nodes to compare: those that hold nothing."""
    s = Scene(seed)
    rng = s.rng
    for t in range(rng.randint(1, 4)):
        inner = []
        for i in range(rng.randint(1, 4)):
            inner.append(s.node(f"t{t}g{i}", None if i == 0 else rng.choice(inner)))
        for i, parent in enumerate(inner):
            s.node(f"t{t}leaf{i}", parent, still=rng.random() < 0.5)
            s.names.append(f"t{t}leaf{i}")
    for i in range(2):
        holder = s.node(f"points{i}", None, still=True)
        s.doc["nodes"][holder]["mesh"] = s.mesh(0)
    for i, mode in enumerate(rng.sample([4, 5, 6], 2)):
        holder = s.node(f"faces{i}", None, still=True)
        s.doc["nodes"][holder]["mesh"] = s.mesh(mode)
    s.node("outside", -1, still=True)
    doc = s.finish()
    if seed % 2:
        doc["buffers"][0]["uri"] = "data:application/octet-stream;base64," + base64.b64encode(s.bytes).decode()
        return json.dumps(doc).encode(), ".gltf", s.names
    text = json.dumps(doc).encode()
    text += b" " * (-len(text) % 4)
    data = bytes(s.bytes) + b"\0" * (-len(s.bytes) % 4)
    parts = struct.pack("<II", len(text), 0x4E4F534A) + text + struct.pack("<II", len(data), 0x004E4942) + data
    return b"glTF" + struct.pack("<II", 2, 12 + len(parts)) + parts, ".glb", s.names
