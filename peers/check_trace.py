"""Features followed by us and by OpenCV's pyramidal Lucas-Kanade, from the same places of the same plates.

A flat wall with detail of all sizes is filmed by a camera that turns, nears and travels, with grain and light that
changes; where each place goes is known exactly. Both are asked how far their features are from there, and how long
they live. A feature of OpenCV's ends where it does not come back to where it began within a pixel.
"""

import csv
import os
import subprocess
import sys
import tempfile

import cv2
import numpy as np

WIDTH, HEIGHT, FRAMES, FIRST = 960, 540, 40, 1001
GRAIN = 1.5
WINDOW = 19
BACK_PX = 1.0
GONE_PX = 2.0


def wall(rng):
    """Brightness at twice the plate's resolution, with a border to move in."""
    out = np.zeros((1600, 2800), np.float32)
    for size in (4, 9, 20, 45, 100):
        grid = rng.standard_normal((1600 // size + 2, 2800 // size + 2)).astype(np.float32)
        out += cv2.resize(grid, (2800, 1600), interpolation=cv2.INTER_CUBIC)
    out = (out - out.min()) / (out.max() - out.min())
    return 20 + 215 * out


def homography(i):
    """From the wall to frame i, pixels to pixels."""
    t = i / FRAMES
    a, k = 0.12 * np.sin(2.4 * t), 0.5 * (1 + 0.25 * t)
    turn = np.array([[np.cos(a), -np.sin(a), 0], [np.sin(a), np.cos(a), 0], [4e-5 * t, -6e-5 * t, 1]])
    to = np.array([[k, 0, WIDTH / 2 - 90 * t], [0, k, HEIGHT / 2 + 30 * np.sin(5 * t)], [0, 0, 1]])
    back = np.array([[1, 0, -1400], [0, 1, -800], [0, 0, 1]])
    return to @ turn @ back


def plates(folder, rng):
    source = wall(rng)
    out = []
    for i in range(FRAMES):
        # Four samples a pixel, so that nothing finer than a pixel is left.
        big = np.diag([2.0, 2.0, 1.0]) @ np.array([[1, 0, 0.25], [0, 1, 0.25], [0, 0, 1]]) @ homography(i)
        p = cv2.warpPerspective(source, big, (2 * WIDTH, 2 * HEIGHT), flags=cv2.INTER_CUBIC)
        p = p.reshape(HEIGHT, 2, WIDTH, 2).mean(axis=(1, 3))
        p = p * (0.9 + 0.1 * np.cos(i / 3)) + GRAIN * rng.standard_normal(p.shape)
        p = np.clip(np.rint(p), 0, 255).astype(np.uint8)
        cv2.imwrite(os.path.join(folder, f"wall.{FIRST + i}.png"), p)
        out.append(p)
    return out


def moved(points, i, j):
    """Where places of frame i are on frame j; pixels are counted from their centres."""
    h = homography(j) @ np.linalg.inv(homography(i))
    return cv2.perspectiveTransform(points.reshape(-1, 1, 2).astype(np.float64), h).reshape(-1, 2)


def ours(root, folder):
    table = os.path.join(folder, "tracks.csv")
    done = subprocess.run(
        [os.path.join(root, "flarvo"), "trace", folder, "--out", table, "-q"], capture_output=True, text=True
    )
    if done.returncode:
        raise SystemExit(done.stderr)
    rows = {}
    with open(table) as f:
        for r in csv.DictReader(f):
            rows.setdefault(r["tracker"], {})[int(r["frame"]) - FIRST] = (float(r["x"]) - 0.5, float(r["y"]) - 0.5)
    return rows


def theirs(pictures, starts):
    """The same for OpenCV, forward from each start (frame, x, y)."""
    rows = {n: {f: (x, y)} for n, (f, x, y) in starts.items()}
    live = {}
    for i in range(FRAMES - 1):
        for n, (f, x, y) in starts.items():
            if f == i:
                live[n] = (x, y)
        if not live:
            continue
        names = list(live)
        p = np.array([live[n] for n in names], np.float32).reshape(-1, 1, 2)
        args = dict(winSize=(WINDOW, WINDOW), maxLevel=4)
        q, good, _ = cv2.calcOpticalFlowPyrLK(pictures[i], pictures[i + 1], p, None, **args)
        b, again, _ = cv2.calcOpticalFlowPyrLK(pictures[i + 1], pictures[i], q, None, **args)
        near = np.linalg.norm((b - p).reshape(-1, 2), axis=1) < BACK_PX
        for k, n in enumerate(names):
            if good[k] and again[k] and near[k]:
                live[n] = tuple(q[k, 0])
                rows[n][i + 1] = live[n]
            else:
                del live[n]
    return rows


def whole(x, y):
    """Whether the square round a place is wholly in the picture; OpenCV makes up what lies beyond its edge."""
    return WINDOW // 2 + 1 <= x < WIDTH - WINDOW // 2 - 2 and WINDOW // 2 + 1 <= y < HEIGHT - WINDOW // 2 - 2


def measured(rows, starts):
    """RMS distance of the better 90 % of the features, those gone astray, frames each, and of those the inner ones."""
    errors, life, inner = [], [], []
    for n, (f, x, y) in starts.items():
        later = {i: p for i, p in rows[n].items() if i > f}
        life.append(len(later))
        inner.append(sum(whole(*moved(np.array([x, y]), f, i)[0]) for i in later))
        if later:
            e = [np.linalg.norm(moved(np.array([x, y]), f, i)[0] - p) for i, p in later.items()]
            errors.append(np.sqrt(np.mean(np.square(e))))
    errors = np.sort(errors)
    good = errors[: int(0.9 * len(errors))]
    return np.sqrt(np.mean(good**2)), int((errors > GONE_PX).sum()), float(np.mean(life)), float(np.mean(inner))


def main(root):
    rng = np.random.default_rng(19)
    with tempfile.TemporaryDirectory() as folder:
        pictures = plates(folder, rng)
        rows = ours(root, folder)
        starts = {n: (min(r), *r[min(r)]) for n, r in rows.items()}
        a = measured(rows, starts)
        b = measured(theirs(pictures, starts), starts)
    for who, m in (("ours", a), ("OpenCV", b)):
        print(
            f"  {who}: {m[0]:.3f} px RMS of the better 90 %, {m[1]} of {len(starts)} astray, "
            f"{m[2]:.1f} frames each, {m[3]:.1f} of them wholly in the picture"
        )
    near = a[0] <= b[0] and a[1] <= b[1]
    long = a[3] >= b[3]
    print("  " + ("as near to the truth or nearer" if near else "OpenCV is nearer to the truth"))
    print("  " + ("followed as long or longer" if long else "OpenCV follows longer") + ", wholly in the picture")
    return 0 if near and long else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
