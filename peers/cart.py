"""A scene made from formulas, for the checks of groups that move.

A cart drives a curve for 60 frames, with a wheel on it that spins; each has points and a box, and
so has the ground. Every place is known on every frame, in metres.
"""

import math

FIRST, LAST = 1001, 1060


def quat(axis, angle):
    n = math.sqrt(sum(a * a for a in axis))
    s = math.sin(angle / 2) / n
    return [math.cos(angle / 2)] + [a * s for a in axis]


def times(a, b):
    return [
        a[0] * b[0] - a[1] * b[1] - a[2] * b[2] - a[3] * b[3],
        a[0] * b[1] + a[1] * b[0] + a[2] * b[3] - a[3] * b[2],
        a[0] * b[2] - a[1] * b[3] + a[2] * b[0] + a[3] * b[1],
        a[0] * b[3] + a[1] * b[2] - a[2] * b[1] + a[3] * b[0],
    ]


def apply(pose, p):
    t, q = pose
    r = times(times(q, [0] + list(p)), [q[0], -q[1], -q[2], -q[3]])
    return [t[i] + r[i + 1] for i in range(3)]


def cart(f):
    u = (f - FIRST) / (LAST - FIRST)
    return [-2 + 4 * u, 0.3 * math.sin(3 * u), -6 - u], quat([0.1, 1, 0.05], 0.4 + 1.1 * u)


def wheel(f):
    u = (f - FIRST) / (LAST - FIRST)
    own = [0.5, -0.2, 0.3 + 0.02 * math.sin(9 * u)], quat([0, 0, 1], 6 * math.pi * u)
    c = cart(f)
    return apply(c, own[0]), times(c[1], own[1])


GROUPS = {"ground": None, "cart": cart, "wheel": wheel}
POINTS = {
    g: [[0.3 * math.cos(2.4 * i), 0.1 * i, 0.3 * math.sin(2.4 * i)] for i in range(5)]
    for g in GROUPS
}
BOX = [[(-0.2, 0.2)[i & 1], (-0.2, 0.2)[i >> 1 & 1], (-0.2, 0.2)[i >> 2]] for i in range(8)]
FACES = [0, 4, 6, 2, 1, 3, 7, 5, 0, 1, 5, 4, 2, 6, 7, 3, 0, 2, 3, 1, 4, 5, 7, 6]


def truth(group, p, f):
    return p if GROUPS[group] is None else apply(GROUPS[group](f), p)


def document():
    poses = lambda of: [v for f in range(FIRST, LAST + 1) for part in of(f) for v in part]
    still = [v for f in range(FIRST, LAST + 1) for v in [0.01 * (f - FIRST), 0.4, 0, 1, 0, 0, 0]]
    names = lambda g: [f"{g}_{i}" for i in range(5)]
    flat = lambda list_: [v for p in list_ for v in p]
    inside = {"ground": {}, "cart": {"in": 0}, "wheel": {"in": 1}}
    return {
        "schema": "flarvo-scene",
        "version": 1,
        "rate": "24",
        "frames": [FIRST, LAST],
        "picture": [1920, 1080, 1],
        "metresPerUnit": 1,
        "axes": {"right": "+X", "up": "+Y", "away": "-Z"},
        "cameras": [
            {"name": "cam", "firstFrame": FIRST, "poses": still,
             "optics": [28, 24.576, 13.824, 0, 0]}
        ],
        "groups": [
            {"name": "cart", "firstFrame": FIRST, "poses": poses(cart)},
            {"name": "wheel", "in": 0, "firstFrame": FIRST, "poses": poses(wheel)},
        ],
        "trackers": [
            {"name": g, **inside[g], "names": names(g), "positions": flat(POINTS[g])}
            for g in GROUPS
        ],
        "meshes": [
            {"name": f"box_{g}", **inside[g], "points": flat(BOX), "faceSizes": [4] * 6,
             "faces": FACES}
            for g in GROUPS
        ],
    }
