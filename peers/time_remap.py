"""OpenCV's times for remapping pictures of three channels on two threads.

For each line "WxH FILTER" on standard input one picture is remapped, and the milliseconds that it
took are answered on a line of standard output.
"""

import sys
import time

import cv2
import numpy as np

cv2.setNumThreads(2)
FILTERS = {"bilinear": cv2.INTER_LINEAR, "bicubic": cv2.INTER_CUBIC, "lanczos": cv2.INTER_LANCZOS4}
KINDS = {"1920x1080": np.uint8, "3840x2160": np.float32}
made_ready = {}


def ready(size):
    """The picture, the map across, the map down, and a picture to write to."""
    if size not in made_ready:
        made_ready.clear()
        width, height = map(int, size.split("x"))
        picture = (np.arange(width * height * 3) % 251).reshape(height, width, 3).astype(KINDS[size])
        x, y = np.meshgrid(np.arange(width, dtype=np.float32), np.arange(height, dtype=np.float32))
        nx, ny = (x - width / 2) / (width / 2), (y - height / 2) / (width / 2)
        s = nx * nx + ny * ny
        r = 1 - 0.08 * s + 0.01 * s * s
        across = (width / 2 + nx * r * width / 2).astype(np.float32)
        down = (height / 2 + ny * r * width / 2).astype(np.float32)
        made_ready[size] = picture, across, down, np.empty_like(picture)
    return made_ready[size]


for line in sys.stdin:
    size, name = line.split()
    picture, across, down, made = ready(size)
    start = time.perf_counter()
    cv2.remap(picture, across, down, FILTERS[name], made)
    print(f"{(time.perf_counter() - start) * 1000:.3f}", flush=True)
