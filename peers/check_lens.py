"""Our lenses, maps and remapped pictures, against OpenCV and OpenEXR's own library."""

import json
import os
import random
import subprocess
import sys
import tempfile

import cv2
import numpy as np
import OpenEXR

WIDTH, HEIGHT = 1920, 1080
LENSES = 12
MAP_PX = 3e-4  # a share of the width in 32-bit floats holds a position to 1e-4 px
PSNR_BILINEAR = 48  # theirs rounds positions to 1/32 px


def flarvo(root, *words):
    done = subprocess.run([os.path.join(root, "flarvo"), *words], capture_output=True, text=True)
    if done.returncode:
        raise SystemExit(f"flarvo {' '.join(words)}: {done.stderr}")
    return done.stdout


def read_exr(path):
    """R and G by OpenEXR's own library."""
    with OpenEXR.File(path, separate_channels=True) as f:
        channels = f.channels()
        return np.array(channels["R"].pixels), np.array(channels["G"].pixels)


def write_exr(path, rgb):
    header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
    with OpenEXR.File(header, {"RGB": np.ascontiguousarray(rgb)}) as f:
        f.write(path)


def read_rgb(path):
    with OpenEXR.File(path) as f:
        return np.array(f.channels()["RGB"].pixels)


def lens(rng, fisheye):
    f = rng.uniform(0.6, 1.4)
    centre = [0.5 + rng.uniform(-0.02, 0.02), 0.5 + rng.uniform(-0.02, 0.02)]
    if fisheye:
        k = {f"k{i + 1}": rng.gauss(0, 0.03 / (i + 1) ** 2) for i in range(4)}
    else:
        k = {"k1": rng.uniform(-0.12, 0.12), "k2": rng.uniform(-0.03, 0.03),
             "p1": rng.gauss(0, 0.002), "p2": rng.gauss(0, 0.002), "k3": rng.gauss(0, 0.004)}
    return {"model": "fisheye-equidistant" if fisheye else "brown-conrady",
            "normalisation": "focal-length", "focalLength": f, "centre": centre, "coefficients": k}


def their_map(sheet):
    """Where each undistorted pixel comes from, with pixel centres on whole numbers."""
    f = sheet["focalLength"] * WIDTH
    cx, cy = sheet["centre"][0] * WIDTH - 0.5, sheet["centre"][1] * HEIGHT - 0.5
    camera = np.array([[f, 0, cx], [0, f, cy], [0, 0, 1]])
    k = sheet["coefficients"]
    size = (WIDTH, HEIGHT)
    if sheet["model"].startswith("fisheye"):
        d = np.array([k[f"k{i + 1}"] for i in range(4)])
        x, y = np.meshgrid(np.arange(WIDTH, dtype=float), np.arange(HEIGHT, dtype=float))
        p = np.stack([(x - cx) / f, (y - cy) / f], -1).reshape(-1, 1, 2)
        q = cv2.fisheye.distortPoints(p, camera, d).reshape(HEIGHT, WIDTH, 2)
        return q[..., 0], q[..., 1]
    d = np.array([k["k1"], k["k2"], k["p1"], k["p2"], k["k3"]])
    x, y = np.meshgrid(np.arange(WIDTH, dtype=float), np.arange(HEIGHT, dtype=float))
    p = np.stack([(x - cx) / f, (y - cy) / f, np.ones_like(x)], -1).reshape(-1, 1, 3)
    q, _ = cv2.projectPoints(p, np.zeros(3), np.zeros(3), camera, d)
    q = q.reshape(HEIGHT, WIDTH, 2)
    return q[..., 0], q[..., 1]


def picture(x, y, c):
    return 0.5 + 0.2 * np.sin(x / 9 + c) * np.cos(y / 11) + 0.2 * np.sin((x + 2 * y) / 23 + 2 * c)


def psnr(a, b, seen):
    return -10 * np.log10(np.mean((a - b)[seen] ** 2))


def main():
    root = os.path.abspath(sys.argv[1])
    rng = random.Random(31)
    worst, bad = 0.0, 0
    x, y = np.meshgrid(np.arange(WIDTH, dtype=float), np.arange(HEIGHT, dtype=float))
    with tempfile.TemporaryDirectory() as folder:
        for n in range(LENSES):
            sheet = lens(rng, n % 3 == 2)
            path = os.path.join(folder, "lens.json")
            with open(path, "w") as f:
                json.dump(sheet, f)
            map_path = os.path.join(folder, f"map{n}.exr")
            flarvo(root, "stmap", "--lens", path, "--size", f"{WIDTH}x{HEIGHT}",
                   "--out", map_path, "--origin", "top")
            u, v = read_exr(map_path)
            mx, my = u * np.float64(WIDTH) - 0.5, v * np.float64(HEIGHT) - 0.5
            tx, ty = their_map(sheet)
            # Beyond a fold theirs goes on; ours has nothing there.
            seen = (u > -0.9) & (np.abs(tx - WIDTH / 2) < WIDTH)
            apart = np.hypot(mx - tx, my - ty)[seen].max()
            worst = max(worst, apart)
            if apart > MAP_PX or seen.mean() < 0.6:
                bad += 1
                print(f"  lens {n}: {apart:.6f} px apart, {seen.mean():.2f} seen: {sheet}")
            if n == 0:
                pictures(root, folder, path, mx, my, x, y)
    print(f"  {LENSES - bad} of {LENSES} lenses agree, the maps within {worst:.1e} px")
    return bad


def pictures(root, folder, lens_path, mx, my, x, y):
    """One picture through our lens, and through OpenCV with our map; the truth is a formula."""
    source = np.stack([picture(x + 0.5, y + 0.5, c) for c in (0, 1, 2)], -1).astype(np.float32)
    os.makedirs(os.path.join(folder, "in"), exist_ok=True)
    write_exr(os.path.join(folder, "in", "a.1001.exr"), source)
    truth = np.stack([picture(mx + 0.5, my + 0.5, c) for c in (0, 1, 2)], -1)
    seen = (mx > 4) & (mx < WIDTH - 5) & (my > 4) & (my < HEIGHT - 5)
    for name, flag in (("bilinear", cv2.INTER_LINEAR), ("bicubic", cv2.INTER_CUBIC),
                       ("lanczos", cv2.INTER_LANCZOS4)):
        flarvo(root, "undistort", os.path.join(folder, "in"), "--lens", lens_path,
               "--filter", name, "--depth", "float", "--quiet",
               "--out", os.path.join(folder, name, "b.####.exr"))
        ours = read_rgb(os.path.join(folder, name, "b.1001.exr"))
        theirs = cv2.remap(source, mx.astype(np.float32), my.astype(np.float32), flag)
        print(f"  {name}: to the truth ours {psnr(ours, truth, seen):.1f} dB, OpenCV"
              f" {psnr(theirs, truth, seen):.1f} dB; to each other"
              f" {psnr(ours, theirs, seen):.1f} dB")
        if name == "bilinear" and psnr(ours, theirs, seen) < PSNR_BILINEAR:
            raise SystemExit("  bilinear differs by more than positions rounded to 1/32 px explain")
        if psnr(ours, truth, seen) < psnr(theirs, truth, seen) - 0.1:
            raise SystemExit(f"  {name}: ours is further from the truth")


if __name__ == "__main__":
    sys.exit(1 if main() else 0)
