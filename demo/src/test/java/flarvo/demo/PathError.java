package flarvo.demo;

import flarvo.scene.FrameRange;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.SimilarityFit;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntFunction;

/**
 * Solved and true camera, laid on each other: turned by their turns, since a straight path tells
 * nothing of the turn about itself, then moved and scaled by their places.
 *
 * @param ofLength largest distance of the camera over the length of its path
 * @param degrees largest angle between solved and true camera
 */
record PathError(double ofLength, double degrees) {

  static PathError of(IntFunction<Pose> solved, IntFunction<Pose> truth, FrameRange frames) {
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    List<Vec3> axes = new ArrayList<>();
    List<Vec3> trueAxes = new ArrayList<>();
    double length = 0;
    for (int f = frames.first(); f <= frames.last(); f++) {
      Pose s = solved.apply(f);
      Pose t = truth.apply(f);
      from.add(s.position());
      to.add(t.position());
      for (Vec3 a : List.of(new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1))) {
        axes.add(s.rotation().apply(a));
        trueAxes.add(t.rotation().apply(a));
      }
      int i = to.size() - 1;
      length += i == 0 ? 0 : to.get(i).minus(to.get(i - 1)).length();
    }
    Rotation turn = SimilarityFit.turnOf(axes, trueAxes);
    Vec3 middle = mean(from);
    Vec3 trueMiddle = mean(to);
    double along = 0;
    double squares = 0;
    for (int i = 0; i < from.size(); i++) {
      Vec3 p = turn.apply(from.get(i).minus(middle));
      along += p.dot(to.get(i).minus(trueMiddle));
      squares += p.dot(p);
    }
    double scale = squares > 0 ? along / squares : 1;
    double far = 0;
    double off = 0;
    for (int i = 0; i < from.size(); i++) {
      Vec3 p = turn.apply(from.get(i).minus(middle)).times(scale).plus(trueMiddle);
      far = Math.max(far, p.minus(to.get(i)).length());
      int f = frames.first() + i;
      off = Math.max(off, angle(turn.after(solved.apply(f).rotation()), truth.apply(f).rotation()));
    }
    return new PathError(length > 0 ? far / length : 0, off);
  }

  private static Vec3 mean(List<Vec3> all) {
    Vec3 sum = Vec3.ZERO;
    for (Vec3 v : all) {
      sum = sum.plus(v);
    }
    return sum.times(1.0 / all.size());
  }

  private static double angle(Rotation a, Rotation b) {
    Rotation d = a.after(b.inverse());
    return Math.toDegrees(
        2 * Math.atan2(Math.sqrt(d.x() * d.x() + d.y() * d.y() + d.z() * d.z()), Math.abs(d.w())));
  }
}
