package flarvo.convention;

import flarvo.scene.Rotation;
import flarvo.scene.Vec3;

/**
 * A signed permutation: where the unit vectors x, y and z go. Determinant +1 or −1; exact, since it
 * only reorders and negates.
 */
record SignedBasis(SignedAxis x, SignedAxis y, SignedAxis z) {

  int determinant() {
    boolean even = (y.index() - x.index() + 3) % 3 == 1;
    return (even ? 1 : -1) * x.sign() * y.sign() * z.sign();
  }

  Vec3 apply(Vec3 v) {
    double[] out = new double[3];
    out[x.index()] = x.sign() * v.x();
    out[y.index()] = y.sign() * v.y();
    out[z.index()] = z.sign() * v.z();
    return new Vec3(out[0], out[1], out[2]);
  }

  Vec3 applyInverse(Vec3 v) {
    double[] in = {v.x(), v.y(), v.z()};
    return new Vec3(x.sign() * in[x.index()], y.sign() * in[y.index()], z.sign() * in[z.index()]);
  }

  /**
   * {@code B · R · B⁻¹}: the axis of the turn goes along, and the angle turns round when B is a
   * reflection. Exact.
   */
  Rotation conjugate(Rotation r) {
    Vec3 axis = apply(new Vec3(r.x(), r.y(), r.z()));
    int d = determinant();
    return new Rotation(r.w(), d * axis.x(), d * axis.y(), d * axis.z());
  }

  /** {@code B⁻¹ · R · B}. */
  Rotation conjugateInverse(Rotation r) {
    Vec3 axis = applyInverse(new Vec3(r.x(), r.y(), r.z()));
    int d = determinant();
    return new Rotation(r.w(), d * axis.x(), d * axis.y(), d * axis.z());
  }

  /** The rotation {@code this · other⁻¹}; both must be of one hand. */
  Rotation timesInverse(SignedBasis other) {
    double[] rows = new double[9];
    for (int column = 0; column < 3; column++) {
      Vec3 unit = new Vec3(column == 0 ? 1 : 0, column == 1 ? 1 : 0, column == 2 ? 1 : 0);
      Vec3 image = apply(other.applyInverse(unit));
      rows[column] = image.x();
      rows[3 + column] = image.y();
      rows[6 + column] = image.z();
    }
    return Rotation.fromRows(rows);
  }
}
