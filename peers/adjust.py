"""Adjusts a bundle that our program wrote, with solvers that we did not write.

Prints for each: name, milliseconds, final cost (half of the sum of squares), tab between.
"""
import sys
import time

import numpy as np


def read(path):
    data = np.fromfile(path, dtype="<f8")
    cameras, points, rows = (int(v) for v in data[:3])
    at = 3
    cam = data[at : at + 16 * cameras].reshape(cameras, 16)
    at += 16 * cameras
    pts = data[at : at + 3 * points].reshape(points, 3)
    at += 3 * points
    return cam, pts, data[at : at + 4 * rows].reshape(rows, 4)


def with_factor_graph(cam, pts, obs):
    """A general library for factor graphs: sparse elimination, Levenberg-Marquardt."""
    import gtsam

    graph = gtsam.NonlinearFactorGraph()
    start = gtsam.Values()
    noise = gtsam.noiseModel.Isotropic.Sigma(2, 1.0)
    # Its cameras look along +Z with y down.
    flip = np.diag([1.0, -1.0, -1.0])
    poses = [
        gtsam.Pose3(gtsam.Rot3(c[:9].reshape(3, 3) @ flip), gtsam.Point3(*c[9:12])) for c in cam
    ]
    lens = [gtsam.Cal3_S2(c[12], c[13], 0.0, c[14], c[15]) for c in cam]
    for i, p in enumerate(poses):
        start.insert(gtsam.symbol("c", i), p)
    seen = set(obs[:, 0].astype(int))
    for j in seen:
        start.insert(gtsam.symbol("p", j), gtsam.Point3(*pts[j]))
    for j, i, x, y in obs:
        i, j = int(i), int(j)
        graph.add(
            gtsam.GenericProjectionFactorCal3_S2(
                gtsam.Point2(x, y), noise, gtsam.symbol("c", i), gtsam.symbol("p", j), lens[i]
            )
        )
    # What is free anyway is held, which costs nothing: where the first camera stands, and a distance.
    graph.add(
        gtsam.PriorFactorPose3(
            gtsam.symbol("c", 0), poses[0], gtsam.noiseModel.Isotropic.Sigma(6, 1e-4)
        )
    )
    last = len(poses) - 1
    away = np.linalg.norm(poses[0].translation() - poses[last].translation())
    graph.add(
        gtsam.RangeFactorPose3(
            gtsam.symbol("c", 0),
            gtsam.symbol("c", last),
            away,
            gtsam.noiseModel.Isotropic.Sigma(1, 1e-3),
        )
    )
    p = gtsam.LevenbergMarquardtParams.CeresDefaults()
    p.setMaxIterations(100)
    p.setRelativeErrorTol(1e-9)
    p.setAbsoluteErrorTol(1e-9)
    begin = time.perf_counter()
    result = gtsam.LevenbergMarquardtOptimizer(graph, start, p).optimize()
    millis = 1e3 * (time.perf_counter() - begin)
    return millis, graph.error(result)


def with_scipy(cam, pts, obs):
    """SciPy's trust region solver with a sparse Jacobian of our own derivatives' differences."""
    from scipy.optimize import least_squares
    from scipy.sparse import coo_matrix
    from scipy.spatial.transform import Rotation

    n, m = len(cam), len(pts)
    point = obs[:, 0].astype(int)
    camera = obs[:, 1].astype(int)
    base = cam[:, :9].reshape(n, 3, 3)

    def local(x):
        turn = Rotation.from_rotvec(x[: 6 * n].reshape(n, 6)[:, :3]).as_matrix()
        rotation = np.einsum("nij,njk->nik", base, turn)
        centre = cam[:, 9:12] + x[: 6 * n].reshape(n, 6)[:, 3:]
        p = pts + x[6 * n :].reshape(m, 3)
        q = p[point] - centre[camera]
        return rotation, q, np.einsum("nji,nj->ni", rotation[camera], q)

    def residual(x):
        _, _, c = local(x)
        u = cam[camera, 14] - cam[camera, 12] * c[:, 0] / c[:, 2] - obs[:, 2]
        v = cam[camera, 15] + cam[camera, 13] * c[:, 1] / c[:, 2] - obs[:, 3]
        return np.column_stack([u, v]).ravel()

    def left_jacobian_to_right(w):
        """Right Jacobian of the rotation vector."""
        a = np.linalg.norm(w, axis=1)[:, None, None]
        k = np.zeros((len(w), 3, 3))
        k[:, 0, 1], k[:, 0, 2], k[:, 1, 2] = -w[:, 2], w[:, 1], -w[:, 0]
        k[:, 1, 0], k[:, 2, 0], k[:, 2, 1] = w[:, 2], -w[:, 1], w[:, 0]
        a = np.maximum(a, 1e-8)
        return np.eye(3) - (1 - np.cos(a)) / a**2 * k + (a - np.sin(a)) / a**3 * (k @ k)

    def jacobian(x):
        rotation, q, c = local(x)
        w = 1 / -c[:, 2]
        xn, yn = c[:, 0] * w, c[:, 1] * w
        fx, fy = cam[camera, 12], cam[camera, 13]
        a = np.zeros((len(obs), 2, 3))
        a[:, 0, 0], a[:, 0, 2] = fx * w, fx * xn * w
        a[:, 1, 1], a[:, 1, 2] = -fy * w, -fy * yn * w
        cross = np.zeros((len(obs), 3, 3))
        cross[:, 0, 1], cross[:, 0, 2], cross[:, 1, 2] = -c[:, 2], c[:, 1], -c[:, 0]
        cross[:, 1, 0], cross[:, 2, 0], cross[:, 2, 1] = c[:, 2], -c[:, 1], c[:, 0]
        right = left_jacobian_to_right(x[: 6 * n].reshape(n, 6)[:, :3])[camera]
        turn = a @ cross @ right
        at = np.einsum("nij,nkj->nik", a, rotation[camera])
        k = np.arange(len(obs))
        rows, cols, values = [], [], []
        for r in range(2):
            for d in range(3):
                rows += [2 * k + r] * 3
                cols += [6 * camera + d, 6 * camera + 3 + d, 6 * n + 3 * point + d]
                values += [turn[:, r, d], -at[:, r, d], at[:, r, d]]
        return coo_matrix(
            (np.concatenate(values), (np.concatenate(rows), np.concatenate(cols))),
            shape=(2 * len(obs), 6 * n + 3 * m),
        ).tocsr()

    begin = time.perf_counter()
    r = least_squares(
        residual,
        np.zeros(6 * n + 3 * m),
        jac=jacobian,
        method="trf",
        tr_solver="lsmr",
        x_scale="jac",
        ftol=1e-9,
        xtol=1e-12,
        gtol=1e-12,
        max_nfev=100,
    )
    return 1e3 * (time.perf_counter() - begin), r.cost


if __name__ == "__main__":
    bundle = read(sys.argv[1])
    ways = [("a factor graph library (GTSAM)", with_factor_graph)]
    if sys.argv[2] == "all":
        ways.append(("SciPy", with_scipy))
    for name, way in ways:
        took, cost = way(*bundle)
        print(f"{name}\t{took:.0f}\t{cost:.6f}", flush=True)
