"""OpenCV's times for following features there and back by its pyramidal Lucas-Kanade, on two threads.

Writes the plates of check_trace.py into the folder that is given, and answers "ready". Then for each line with the
path of a table of starts (x, y on the first frame; pixels counted from their centres) all of them are followed through
all frames, and the milliseconds and the number of features times frames are answered.
"""

import csv
import sys
import time

import cv2
import numpy as np

import check_trace

cv2.setNumThreads(2)
SEARCH = {"winSize": (19, 19), "maxLevel": 4}
pictures = check_trace.plates(sys.argv[1], np.random.default_rng(19))
print("ready", flush=True)

for line in sys.stdin:
    with open(line.strip()) as f:
        live = np.array([(r["x"], r["y"]) for r in csv.DictReader(f)], np.float32)
    spent, followed = 0.0, 0
    for now, after in zip(pictures, pictures[1:]):
        p = live.reshape(-1, 1, 2)
        start = time.perf_counter()
        q, good, _ = cv2.calcOpticalFlowPyrLK(now, after, p, None, **SEARCH)
        b, again, _ = cv2.calcOpticalFlowPyrLK(after, now, q, None, **SEARCH)
        spent += time.perf_counter() - start
        # It makes four pyramids where one is new, and two with gradients: three are taken off, one of them with.
        start = time.perf_counter()
        for picture, gradients in ((now, False), (after, False), (now, True)):
            cv2.buildOpticalFlowPyramid(
                picture, SEARCH["winSize"], SEARCH["maxLevel"], withDerivatives=gradients
            )
        spent -= time.perf_counter() - start
        near = np.linalg.norm((b - p).reshape(-1, 2), axis=1) < check_trace.BACK_PX
        followed += len(live)
        live = q.reshape(-1, 2)[near & (good.ravel() == 1) & (again.ravel() == 1)]
    print(f"{1000 * spent:.3f} {followed}", flush=True)
