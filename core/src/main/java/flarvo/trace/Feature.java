package flarvo.trace;

import boofcv.struct.image.GrayF32;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/** One feature on its way through the plate. */
final class Feature {

  private static final int FIRST_ROWS = 16;

  /** By what it is recognised; null once it has ended. */
  Pattern known;

  /** Place and shape of the known pattern in the frame in which it was seen last. */
  double[] warp;

  /** How well its shape is known. */
  final ShapeEstimate shape = new ShapeEstimate();

  /** False where it was carried along, as through a blur, or fits badly: its place is not kept. */
  boolean sure = true;

  /** Frames in a row in which its place was not sure. */
  int unsure;

  /** Motion of the last step, in pixels. */
  double vx;

  double vy;

  /** How far from where it was predicted the last step ended, in pixels. */
  double missedPx = Double.POSITIVE_INFINITY;

  /** What was round a place near it, in a frame in which it was seen. */
  MovedPattern seen;

  double seenX;
  double seenY;
  private int seenFrame;

  /** Frames since it was seen; 0 while it is followed. */
  int hidden;

  /** Correlation with its pattern where it was seen last. */
  double score = 1;

  /** Frames since its pattern was taken. */
  int age;

  boolean ended;

  /**
   * Whether it was lost on its way back within the picture, not just followed back far enough or to
   * where it came in.
   */
  boolean lostBefore;

  /** Whether it was lost last where it goes out of the picture. */
  boolean wentOut;

  private int[] frames = new int[FIRST_ROWS];
  private double[] places = new double[2 * FIRST_ROWS];
  private int rows;
  private final BitSet dropped = new BitSet();

  /** Of the known pattern when it was taken, by the first one; row by row. */
  private final double[] shapeBefore = {1, 0, 0, 1};

  /** The places that are still to be corrected, and some before them. */
  private final List<Sighting> sightings = new ArrayList<>();

  Feature(Pattern known, double x, double y) {
    this.known = known;
    this.warp = Pattern.at(x, y);
  }

  double x() {
    return warp[0];
  }

  double y() {
    return warp[1];
  }

  List<Sighting> sightings() {
    return sightings;
  }

  /** Writes the linear part of its pattern, by the one on the frame where it was born. */
  void shapeSinceBirth(double[] to, int at) {
    double[] s = shapeBefore;
    to[at] = warp[2] * s[0] + warp[3] * s[2];
    to[at + 1] = warp[2] * s[1] + warp[3] * s[3];
    to[at + 2] = warp[4] * s[0] + warp[5] * s[2];
    to[at + 3] = warp[4] * s[1] + warp[5] * s[3];
  }

  /** Its pattern was taken anew, at its place. */
  void takenAnew() {
    double[] s = new double[shapeBefore.length];
    shapeSinceBirth(s, 0);
    taken(s);
  }

  /** Its pattern was taken where it was born, on the frame on which it was born. */
  void bornAt(double x, double y) {
    warp = Pattern.at(x, y);
    taken(new double[] {1, 0, 0, 1});
  }

  private void taken(double[] before) {
    System.arraycopy(before, 0, shapeBefore, 0, before.length);
    warp = Pattern.at(x(), y());
    shape.setExact();
    age = 0;
  }

  boolean live() {
    return !ended && hidden == 0;
  }

  void end() {
    ended = true;
    known = null;
    seen = null;
  }

  /**
   * Keeps what was round a place of a frame.
   *
   * @return an object that is not needed any more
   */
  MovedPattern see(MovedPattern p, int frame, double x, double y) {
    MovedPattern old = seen == null ? new MovedPattern(p.radius()) : seen;
    seen = p;
    seenX = x;
    seenY = y;
    seenFrame = frame;
    return old;
  }

  /** Whether what was round it in a frame is kept, from no farther than some pixels. */
  boolean isSeen(int frame, double px) {
    double dx = seenX - x();
    double dy = seenY - y();
    return seen != null && seenFrame == frame && dx * dx + dy * dy <= px * px;
  }

  /** Keeps its place on a frame, and the pixels round it. */
  void keep(int frame, GrayF32 image, int radius) {
    sightings.add(new Sighting(this, rows, frame, image, radius));
    keep(frame, x(), y());
  }

  /** Corrects a place. */
  void move(int row, double x, double y) {
    places[2 * row] = x;
    places[2 * row + 1] = y;
  }

  /** A place turned out not to be good enough. */
  void drop(int row) {
    dropped.set(row);
  }

  boolean isDropped(int row) {
    return dropped.get(row);
  }

  /** Keeps a place, in the pixels of this package. */
  void keep(int frame, double x, double y) {
    if (rows == frames.length) {
      frames = Arrays.copyOf(frames, 2 * rows);
      places = Arrays.copyOf(places, 4 * rows);
    }
    frames[rows] = frame;
    places[2 * rows] = x;
    places[2 * rows + 1] = y;
    rows++;
  }

  int rows() {
    return rows;
  }

  int frame(int row) {
    return frames[row];
  }

  double x(int row) {
    return places[2 * row];
  }

  double y(int row) {
    return places[2 * row + 1];
  }
}
