package flarvo.vet.adjust;

import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;

/**
 * Everything that an adjustment moves, in primitive arrays. Mutable; a copy is cheap beside a step.
 *
 * <pre>
 *   c = Rᵀ (p − t)      d = −c.z       x' = c.x / d     y' = c.y / d     ρ² = x'² + y'²
 *   g = 1 + k1 ρ² + k2 ρ⁴ + k3 ρ⁶
 *   u = cx + f · x' · g                v = cy − f · ratio · y' · g
 * </pre>
 *
 * With a tripod, {@code t} is zero for every camera and {@code p} a unit direction.
 */
public final class Bundle {

  final int cameras;
  final int points;
  final double[] rotation; // nine a camera
  final double[] centre; // three a camera
  final double[] focal; // pixels across
  final double[] ratio; // pixels down for one pixel across
  final double[] cx;
  final double[] cy;
  final double[] point; // three a point
  double k1;
  double k2;
  double k3;

  public Bundle(int cameras, int points) {
    this.cameras = cameras;
    this.points = points;
    rotation = new double[9 * cameras];
    centre = new double[3 * cameras];
    focal = new double[cameras];
    ratio = new double[cameras];
    cx = new double[cameras];
    cy = new double[cameras];
    point = new double[3 * points];
  }

  public int cameras() {
    return cameras;
  }

  public int points() {
    return points;
  }

  /** Camera {@code i} stands at {@code p}, camera to world. */
  public void setPose(int camera, Pose pose) {
    System.arraycopy(pose.rotation().toRows(), 0, rotation, 9 * camera, 9);
    centre[3 * camera] = pose.position().x();
    centre[3 * camera + 1] = pose.position().y();
    centre[3 * camera + 2] = pose.position().z();
  }

  /** Pose of camera {@code i}, camera to world. */
  public Pose pose(int camera) {
    double[] m = new double[9];
    System.arraycopy(rotation, 9 * camera, m, 0, 9);
    return new Pose(
        new Vec3(centre[3 * camera], centre[3 * camera + 1], centre[3 * camera + 2]),
        Rotation.fromRows(m));
  }

  /**
   * @param focalPx across
   * @param downForAcross what a pixel across is worth down: 1 for square pixels
   */
  public void setOptics(
      int camera, double focalPx, double downForAcross, double centreX, double centreY) {
    focal[camera] = focalPx;
    ratio[camera] = downForAcross;
    cx[camera] = centreX;
    cy[camera] = centreY;
  }

  /** Horizontal focal length of camera {@code i} in pixels. */
  public double focalPx(int camera) {
    return focal[camera];
  }

  /** Pixels down for one across. */
  public double ratio(int camera) {
    return ratio[camera];
  }

  /** Unit direction, in camera space, of the ray through a pixel; lens terms are not looked at. */
  public Vec3 ray(int camera, double x, double y) {
    double f = focal[camera];
    return new Vec3((x - cx[camera]) / f, -(y - cy[camera]) / (f * ratio[camera]), -1).normalized();
  }

  /** Principal point of camera {@code i} in canonical pixels, from the left. */
  public double centreX(int camera) {
    return cx[camera];
  }

  /** Principal point of camera {@code i} in canonical pixels, from the top. */
  public double centreY(int camera) {
    return cy[camera];
  }

  /** Point {@code j} in the world of the solve. */
  public void setPoint(int i, Vec3 p) {
    point[3 * i] = p.x();
    point[3 * i + 1] = p.y();
    point[3 * i + 2] = p.z();
  }

  /** Point {@code j} in the world of the solve. */
  public Vec3 point(int i) {
    return new Vec3(point[3 * i], point[3 * i + 1], point[3 * i + 2]);
  }

  /** Radial terms to start from, which all cameras share; see the class. */
  public void setLens(double k1, double k2, double k3) {
    this.k1 = k1;
    this.k2 = k2;
    this.k3 = k3;
  }

  public double k1() {
    return k1;
  }

  public double k2() {
    return k2;
  }

  public double k3() {
    return k3;
  }

  /** An independent copy. */
  public Bundle copy() {
    Bundle b = new Bundle(cameras, points);
    b.take(this);
    return b;
  }

  void take(Bundle from) {
    System.arraycopy(from.rotation, 0, rotation, 0, rotation.length);
    System.arraycopy(from.centre, 0, centre, 0, centre.length);
    System.arraycopy(from.focal, 0, focal, 0, focal.length);
    System.arraycopy(from.ratio, 0, ratio, 0, ratio.length);
    System.arraycopy(from.cx, 0, cx, 0, cx.length);
    System.arraycopy(from.cy, 0, cy, 0, cy.length);
    System.arraycopy(from.point, 0, point, 0, point.length);
    k1 = from.k1;
    k2 = from.k2;
    k3 = from.k3;
  }
}
