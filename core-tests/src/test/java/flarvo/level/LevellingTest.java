package flarvo.level;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.SignedAxis;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.ddogleg.optimization.FactoryOptimization;
import org.ddogleg.optimization.UnconstrainedLeastSquares;
import org.ddogleg.optimization.functions.FunctionNtoM;
import org.ddogleg.optimization.functions.FunctionNtoMxN;
import org.ejml.data.DMatrixRMaj;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@Tag("numeric")
class LevellingTest {

  private static final LevelScenes.Made EXACT = LevelScenes.walk(1, 40, 0.3, 0);

  /** A scene of named places, in a solve space of its own. */
  private static LevelScene scene(Map<String, Vec3> world, Similarity truth) {
    Similarity back = truth.inverse();
    List<String> names = new ArrayList<>(world.keySet());
    double[] xyz = new double[3 * names.size()];
    for (int i = 0; i < names.size(); i++) {
      Vec3 v = back.apply(world.get(names.get(i)));
      xyz[3 * i] = v.x();
      xyz[3 * i + 1] = v.y();
      xyz[3 * i + 2] = v.z();
    }
    Shot base = EXACT.solved();
    Similarity fromOther = back.after(EXACT.truth());
    Shot carried = base.withLevel(fromOther).levelled().contents();
    return new LevelScene(
        carried
            .withTrackers(List.of(TrackerSet.of("t", names, xyz)))
            .withObservations(flarvo.scene.Observations.NONE));
  }

  private static final Map<String, Vec3> PLACES =
      Map.of(
          "o", new Vec3(0, 0, 0),
          "x1", new Vec3(0.6, 0, 0),
          "x2", new Vec3(1.8, 0, 0),
          "z1", new Vec3(0, 0, 1.2),
          "xz", new Vec3(1.2, 0, -0.6),
          "top", new Vec3(0, 0.95, 0),
          "w1", new Vec3(0.3, 0.2, -4),
          "w2", new Vec3(1.4, 0.7, -4),
          "w3", new Vec3(-1.1, 0.5, -4));

  private static List<Stated> on(Statement... s) {
    return Arrays.stream(s).map(Stated::new).toList();
  }

  private static void same(Similarity a, Similarity b, double tolerance) {
    assertThat(a.scale() / b.scale()).isCloseTo(1, within(tolerance));
    assertThat(a.rotation().angleTo(b.rotation())).isLessThan(tolerance);
    assertThat(a.translation().minus(b.translation()).length())
        .isLessThan(tolerance * (1 + b.translation().length()));
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10})
  void everyCompleteSetFindsTheTruth(long seed) {
    Random r = new Random(seed);
    Similarity truth = LevelScenes.anySimilarity(r);
    LevelScene scene = scene(PLACES, truth);
    Similarity start = LevelScenes.anySimilarity(r);
    Statement origin = new Statement.At("o", Vec3.ZERO);
    Statement ground = new Statement.OnGround(Set.of("o", "x1", "z1", "xz"), 0);
    Statement along = new Statement.Along("o", "x1", SignedAxis.POSITIVE_X);
    Statement size = new Statement.Distance("x1", "x2", 1.2);
    Statement upright = new Statement.Vertical("o", "top");
    Statement wall = new Statement.OnWall(Set.of("w1", "w2", "w3"), SignedAxis.POSITIVE_Z);
    for (List<Stated> set :
        List.of(
            on(origin, ground, along, size),
            on(size, along, ground, origin),
            on(
                new Statement.At("x1", new Vec3(0.6, 0, 0)),
                new Statement.At("z1", new Vec3(0, 0, 1.2)),
                new Statement.At("top", new Vec3(0, 0.95, 0))),
            on(origin, upright, along, size),
            on(origin, ground, along, size, upright, wall),
            on(
                new Statement.OnGround(Set.of("o", "x1", "z1"), 0),
                new Statement.OnGround(Set.of("top"), 0.95),
                origin,
                new Statement.Along("z1", "o", SignedAxis.NEGATIVE_Z)))) {
      LevelReading is = Levelling.of(scene, set, start);
      same(is.level(), truth, 1e-9);
      assertThat(is.free()).isEmpty();
      assertThat(is.lines()).allSatisfy(l -> assertThat(l.problem()).isEmpty());
      assertThat(is.lines()).allSatisfy(l -> assertThat(l.metres()).isLessThan(1e-9));
      // Once there, it stays.
      same(Levelling.of(scene, set, is.level()).level(), is.level(), 1e-10);
    }
  }

  @Test
  void whatNobodySaidStaysAsItIsAndIsNamed() {
    Random r = new Random(4);
    Similarity truth = LevelScenes.anySimilarity(r);
    LevelScene scene = scene(PLACES, truth);
    LevelReading none = Levelling.of(scene, List.of(), truth);
    assertThat(none.level()).isEqualTo(truth);
    assertThat(none.free().get(0)).startsWith("everything");

    LevelReading origin = Levelling.of(scene, on(new Statement.At("x1", Vec3.ZERO)), truth);
    assertThat(origin.free()).containsExactly("all rotations", "scale");
    assertThat(origin.level().rotation().angleTo(truth.rotation())).isLessThan(1e-12);
    assertThat(origin.level().scale()).isCloseTo(truth.scale(), within(1e-12 * truth.scale()));

    LevelReading ground =
        Levelling.of(
            scene,
            on(
                new Statement.OnGround(Set.of("o", "x1", "z1"), 0),
                new Statement.Distance("o", "x1", 0.6)),
            truth);
    assertThat(ground.free())
        .containsExactly("rotation about the up axis", "position along X", "position along Z");
    same(ground.level(), truth, 1e-9);

    LevelReading distance = Levelling.of(scene, on(new Statement.Distance("o", "x1", 1.2)), truth);
    assertThat(distance.free())
        .containsExactly("all rotations", "position along X", "height", "position along Z");
    assertThat(distance.level().scale()).isCloseTo(2 * truth.scale(), within(1e-9));

    LevelReading high = Levelling.of(scene, on(new Statement.OnGround(Set.of("o"), 0.75)), truth);
    assertThat(high.free()).contains("scale");
    assertThat(high.level().scale()).isEqualTo(truth.scale()); // rather lifted than enlarged
    assertThat(high.level().apply(scene.places().get("o")).y()).isCloseTo(0.75, within(1e-9));
  }

  @Test
  void aGroundThatCameUpsideDownIsTurnedOver() {
    Random r = new Random(8);
    Similarity truth = LevelScenes.anySimilarity(r);
    LevelScene scene = scene(PLACES, truth);
    Similarity over =
        new Similarity(1, Rotation.about(new Vec3(1, 0, 0), Math.PI), Vec3.ZERO).after(truth);
    assertThat(LevelCheck.of(scene, over)).anyMatch(s -> s.contains("upside down"));
    assertThat(LevelCheck.of(scene, truth)).isEmpty();
    LevelReading is =
        Levelling.of(scene, on(new Statement.OnGround(Set.of("o", "x1", "z1"), 0)), over);
    assertThat(LevelCheck.of(scene, is.level())).isEmpty();
    // A ground that is stated below trackers is said.
    Similarity high = new Similarity(1, Rotation.IDENTITY, new Vec3(0, -3, 0)).after(truth);
    assertThat(LevelCheck.of(scene, high)).anyMatch(s -> s.contains("below the ground"));
  }

  @Test
  void aMirroredSolveIsCaught() {
    Shot s = EXACT.solved();
    assertThat(LevelCheck.isMirrored(new LevelScene(s))).isFalse();
    Shot mirrored =
        s.withTrackers(s.trackers().stream().map(t -> t.map(LevellingTest::flip)).toList())
            .withCameras(
                List.of(
                    s.cameras()
                        .get(0)
                        .withPoses(
                            flarvo.scene.PoseTrack.of(
                                s.frames(),
                                f -> {
                                  Pose p = s.cameras().get(0).poses().at(f);
                                  Rotation q = p.rotation();
                                  return new Pose(
                                      flip(p.position()),
                                      new Rotation(q.w(), q.x(), -q.y(), -q.z()));
                                }))));
    LevelScene scene = new LevelScene(mirrored);
    assertThat(LevelCheck.isMirrored(scene)).isTrue();
    for (Similarity level : List.of(EXACT.truth(), Similarity.IDENTITY)) { // whatever the level is
      assertThat(LevelCheck.of(scene, level)).anyMatch(w -> w.contains("handedness"));
    }
  }

  private static Vec3 flip(Vec3 v) {
    return new Vec3(-v.x(), v.y(), v.z());
  }

  @Test
  void degenerateStatementsAreExplained() {
    LevelScene scene = scene(PLACES, Similarity.IDENTITY);
    explained(scene, new Statement.Distance("o", "x1", 0), "distance over zero");
    explained(scene, new Statement.Distance("o", "o", 0.6), "both ends");
    explained(scene, new Statement.Along("x1", "x1", SignedAxis.POSITIVE_X), "both ends");
    explained(scene, new Statement.Vertical("top", "top"), "both ends");
    explained(scene, new Statement.OnGround(Set.of(), 0), "names no tracker");
    explained(scene, new Statement.OnWall(Set.of("w1"), SignedAxis.POSITIVE_Z), "two trackers");
    explained(scene, new Statement.At("gone", Vec3.ZERO), "no longer in the shot");
    Map<String, Vec3> twice = new HashMap<>(PLACES);
    twice.put("x1again", PLACES.get("x1"));
    explained(
        scene(twice, Similarity.IDENTITY),
        new Statement.Along("x1", "x1again", SignedAxis.POSITIVE_X),
        "in one place");
    // Three on one line are a ground that still rolls about it.
    LevelReading line =
        Levelling.of(
            scene, on(new Statement.OnGround(Set.of("o", "x1", "x2"), 0)), Similarity.IDENTITY);
    assertThat(line.free()).anyMatch(f -> f.contains("the line through the trackers"));
    // One way along two opposite axes.
    LevelReading opposite =
        Levelling.of(
            scene,
            on(
                new Statement.Along("o", "x1", SignedAxis.POSITIVE_X),
                new Statement.Along("o", "x2", SignedAxis.NEGATIVE_X)),
            Similarity.IDENTITY);
    assertThat(opposite.lines())
        .anyMatch(l -> l.problem().orElse("").contains("points the other way"));
  }

  private static void explained(LevelScene scene, Statement s, String why) {
    LevelReading is = Levelling.of(scene, on(s), Similarity.IDENTITY);
    assertThat(is.level()).isEqualTo(Similarity.IDENTITY);
    assertThat(is.lines().get(0).problem().orElse("")).contains(why);
  }

  @Test
  void theOneThatDisagreesIsNamed() {
    Random r = new Random(12);
    LevelScene scene = scene(PLACES, LevelScenes.anySimilarity(r));
    LevelReading is =
        Levelling.of(
            scene,
            on(
                new Statement.At("o", Vec3.ZERO),
                new Statement.OnGround(Set.of("o", "x1", "z1", "xz"), 0),
                new Statement.Along("o", "x1", SignedAxis.POSITIVE_X),
                new Statement.Distance("o", "x1", 0.6),
                new Statement.Distance("o", "z1", 1.2),
                new Statement.Distance("x1", "x2", 2.4)), // it is 1.2
            Similarity.IDENTITY);
    assertThat(is.lines().get(5).problem().orElse("")).contains("disagrees");
    for (int i = 0; i < 5; i++) {
      assertThat(is.lines().get(i).problem()).isEmpty();
    }
  }

  /** Two lengths that contradict each other are both named, though forty trackers agree. */
  @Test
  void contradictionsDoNotDrownInWhatAgrees() {
    LevelScenes.Made m = LevelScenes.noisy(LevelScenes.walk(3, 60, 0.3, 0), 0.3, 1);
    LevelScene scene = new LevelScene(m.solved());
    List<String> g = m.ground();
    double first =
        m.truth()
            .apply(scene.places().get(g.get(0)))
            .minus(m.truth().apply(scene.places().get(g.get(1))))
            .length();
    double second =
        m.truth()
            .apply(scene.places().get(g.get(2)))
            .minus(m.truth().apply(scene.places().get(g.get(3))))
            .length();
    Statement ground = new Statement.OnGround(Set.copyOf(g), 0);
    Statement one = new Statement.Distance(g.get(0), g.get(1), first);
    LevelReading right =
        Levelling.of(
            scene,
            on(ground, one, new Statement.Distance(g.get(2), g.get(3), second)),
            Similarity.IDENTITY);
    assertThat(right.lines()).allMatch(l -> l.problem().isEmpty());
    LevelReading wrong =
        Levelling.of(
            scene,
            on(ground, one, new Statement.Distance(g.get(2), g.get(3), 1.1 * second)),
            Similarity.IDENTITY);
    assertThat(wrong.lines().get(0).problem()).isEmpty();
    assertThat(wrong.lines().get(1).problem().orElse("")).contains("disagrees with 'from");
    assertThat(wrong.lines().get(2).problem().orElse("")).contains("disagrees with 'from");
  }

  /** The same sum of squares, minimised by a library over parameters of its own. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16})
  void overDeterminedSetsEqualAnIndependentLeastSquares(long seed) {
    Random r = new Random(seed);
    Map<String, Vec3> rough = new HashMap<>();
    // In an order that is the same in every run.
    new TreeMap<>(PLACES)
        .forEach(
            (n, p) ->
                rough.put(
                    n,
                    p.plus(
                        new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian())
                            .times(0.01))));
    Similarity truth =
        new Similarity(
            0.5 + r.nextDouble(),
            Rotation.about(
                new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()).normalized(), 0.8),
            new Vec3(1, -2, 0.5));
    LevelScene scene = scene(rough, truth);
    List<Stated> set =
        List.of(
            new Stated(new Statement.At("o", Vec3.ZERO)),
            new Stated(new Statement.OnGround(Set.of("o", "x1", "x2", "z1", "xz"), 0)),
            new Stated(new Statement.OnGround(Set.of("top"), 0.95), true, 2),
            new Stated(new Statement.Along("o", "x2", SignedAxis.POSITIVE_X), true, 0.5),
            new Stated(new Statement.Along("z1", "o", SignedAxis.NEGATIVE_Z)),
            new Stated(new Statement.Vertical("o", "top")),
            new Stated(new Statement.Distance("o", "x2", 1.8)),
            new Stated(new Statement.Distance("x1", "xz", Math.hypot(0.6, 0.6)), true, 3));
    LevelReading is = Levelling.of(scene, set, Similarity.IDENTITY);
    same(is.level(), theirs(scene, set, truth), 1e-9);
  }

  private static Similarity theirs(LevelScene scene, List<Stated> set, Similarity near) {
    Map<String, Vec3> p = scene.places();
    FunctionNtoM residuals =
        new FunctionNtoM() {
          @Override
          public void process(double[] in, double[] out) {
            Similarity s = similarity(in);
            double u = 1 / s.scale();
            int k = 0;
            for (Stated t : set) {
              double w = t.weight() * u; // lengths of solve space
              if (t.what() instanceof Statement.At a) {
                Vec3 d = s.apply(p.get(a.tracker())).minus(a.place());
                out[k++] = w * d.x();
                out[k++] = w * d.y();
                out[k++] = w * d.z();
              } else if (t.what() instanceof Statement.OnGround g) {
                for (String n : g.trackers()) {
                  out[k++] = w * (s.apply(p.get(n)).y() - g.height());
                }
              } else if (t.what() instanceof Statement.Along a) {
                Vec3 d = s.apply(p.get(a.to())).minus(s.apply(p.get(a.from())));
                out[k++] = w * d.y();
                out[k++] = w * (a.axis().index() == 0 ? d.z() : d.x());
              } else if (t.what() instanceof Statement.Vertical v) {
                Vec3 d = s.apply(p.get(v.one())).minus(s.apply(p.get(v.other())));
                out[k++] = w * d.x();
                out[k++] = w * d.z();
              } else if (t.what() instanceof Statement.Distance d) {
                Vec3 v = s.apply(p.get(d.to())).minus(s.apply(p.get(d.from())));
                out[k++] = w * (v.length() - d.metres());
              }
            }
          }

          @Override
          public int getNumOfInputsN() {
            return 7;
          }

          @Override
          public int getNumOfOutputsM() {
            return 17;
          }
        };
    UnconstrainedLeastSquares<DMatrixRMaj> lm = FactoryOptimization.levenbergMarquardt(null, true);
    lm.setFunction(residuals, new CentralDifferences(residuals));
    Rotation q = near.rotation();
    double angle = 2 * Math.acos(Math.min(1, Math.abs(q.w())));
    double k = q.w() < 0 ? -1 : 1;
    double sin = Math.sin(angle / 2);
    Vec3 t = near.translation();
    double[] begin = {
      angle * k * q.x() / sin,
      angle * k * q.y() / sin,
      angle * k * q.z() / sin,
      t.x(),
      t.y(),
      t.z(),
      Math.log(near.scale())
    };
    // It stops a little early; from where it stopped its damping begins anew.
    double[] at = begin;
    for (int again = 0; again < 6; again++) {
      lm.initialize(at, 0, 0);
      for (int i = 0; i < 400 && !lm.iterate(); i++) {
        // on
      }
      at = lm.getParameters().clone();
    }
    return similarity(at);
  }

  /** The library's own are of one side only, which ends at about 1e-8. */
  private record CentralDifferences(FunctionNtoM of) implements FunctionNtoMxN<DMatrixRMaj> {
    @Override
    public void process(double[] in, DMatrixRMaj out) {
      double h = 1e-5;
      double[] low = new double[getNumOfOutputsM()];
      double[] high = new double[getNumOfOutputsM()];
      for (int k = 0; k < in.length; k++) {
        double[] at = in.clone();
        at[k] = in[k] - h;
        of.process(at, low);
        at[k] = in[k] + h;
        of.process(at, high);
        for (int i = 0; i < low.length; i++) {
          out.set(i, k, (high[i] - low[i]) / (2 * h));
        }
      }
    }

    @Override
    public DMatrixRMaj declareMatrixMxN() {
      return new DMatrixRMaj(getNumOfOutputsM(), getNumOfInputsN());
    }

    @Override
    public int getNumOfInputsN() {
      return of.getNumOfInputsN();
    }

    @Override
    public int getNumOfOutputsM() {
      return of.getNumOfOutputsM();
    }
  }

  private static Similarity similarity(double[] v) {
    Vec3 turn = new Vec3(v[0], v[1], v[2]);
    double a = turn.length();
    return new Similarity(
        Math.exp(v[6]),
        a > 0 ? Rotation.about(turn.times(1 / a), a) : Rotation.IDENTITY,
        new Vec3(v[3], v[4], v[5]));
  }

  @Test
  void derivativesAreWhatDifferencesSay() {
    Random r = new Random(3);
    LevelScene scene = scene(PLACES, LevelScenes.anySimilarity(r));
    List<Stated> set =
        on(
            new Statement.At("x1", new Vec3(1, 2, 3)),
            new Statement.OnGround(Set.of("o", "z1"), 0.4),
            new Statement.OnWall(Set.of("w1", "w2", "w3"), SignedAxis.NEGATIVE_X),
            new Statement.Along("o", "x2", SignedAxis.POSITIVE_Z),
            new Statement.Distance("o", "top", 0.95));
    boolean[] all = new boolean[set.size()];
    Arrays.fill(all, true);
    Equations e = Equations.of(set, all);
    Vec3[] at = e.names().stream().map(scene.places()::get).toArray(Vec3[]::new);
    Similarity s = LevelScenes.anySimilarity(r);
    LevelFit fit = new LevelFit(e.list(), at, s);
    double[] row = new double[LevelFit.UNKNOWNS];
    double h = 1e-6;
    for (Equation q : e.list()) {
      fit.derive(q, row);
      for (int k = 0; k < LevelFit.UNKNOWNS; k++) {
        double[] ends = new double[2];
        for (int side = 0; side < 2; side++) {
          LevelFit moved = new LevelFit(e.list(), at, s);
          double d = side == 0 ? -h : h;
          if (k < 3) {
            Vec3 axis = new Vec3(k == 0 ? 1 : 0, k == 1 ? 1 : 0, k == 2 ? 1 : 0);
            moved.turn = Rotation.about(axis, d / fit.reach()).after(moved.turn);
          } else if (k < 6) {
            moved.shift =
                moved.shift.plus(new Vec3(k == 3 ? d : 0, k == 4 ? d : 0, k == 5 ? d : 0));
          } else {
            moved.u += d / fit.metres();
          }
          ends[side] = moved.residual(q);
        }
        assertThat(row[k]).isCloseTo((ends[1] - ends[0]) / (2 * h), within(1e-7));
      }
    }
  }

  /** A level moves camera and points together: the picture stays, whatever it is. */
  @Test
  void noLevelChangesAPixel() {
    Random r = new Random(6);
    Shot s = EXACT.solved();
    double[] a = new double[3];
    double[] b = new double[3];
    double worst = 0;
    for (int i = 0; i < 50; i++) {
      Shot moved = s.withLevel(LevelScenes.anySimilarity(r)).levelled().contents();
      Pinhole before = new Pinhole(s.cameras().get(0), s.picture());
      Pinhole after = new Pinhole(moved.cameras().get(0), s.picture());
      for (int f = 1001; f <= 1050; f += 7) {
        before.at(f);
        after.at(f);
        for (int t = 0; t < 40; t++) {
          Vec3 p = s.trackers().get(0).position(t);
          Vec3 q = moved.trackers().get(0).position(t);
          before.project(p.x(), p.y(), p.z(), a);
          after.project(q.x(), q.y(), q.z(), b);
          if (a[2] > 0) {
            worst = Math.max(worst, Math.hypot(a[0] - b[0], a[1] - b[1]));
          }
        }
      }
    }
    assertThat(worst).isLessThan(1e-9);
  }

  /** What is said of the error is the spread of many noisy scenes. */
  @Test
  void theErrorsSaidAreTheErrorsMade() {
    double lean = 0;
    double size = 0;
    double saidLean = 0;
    double saidSize = 0;
    int n = 60;
    for (int i = 0; i < n; i++) {
      LevelScenes.Made m = LevelScenes.walk(77, 30, 0.2, 0); // one and the same scene
      LevelScenes.Made noisy = LevelScenes.noisy(m, 0.4, i);
      List<String> g = m.ground();
      Map<String, Vec3> w = new LevelScene(m.solved()).places();
      double metres =
          m.truth().apply(w.get(g.get(0))).minus(m.truth().apply(w.get(g.get(9)))).length();
      LevelReading is =
          Levelling.of(
              new LevelScene(noisy.solved()),
              on(
                  new Statement.OnGround(Set.copyOf(g.subList(0, 4)), 0),
                  new Statement.Distance(g.get(0), g.get(9), metres)),
              m.truth());
      Vec3 up = is.level().rotation().after(m.truth().rotation().inverse()).apply(Equations.Y);
      double a = Math.acos(Math.min(1, up.y()));
      lean += a * a / n;
      double k = is.level().scale() / m.truth().scale() - 1;
      size += k * k / n;
      saidLean += is.upError() / n;
      saidSize += is.scaleError() / n;
    }
    assertThat(saidLean / Math.sqrt(lean)).isBetween(0.7, 1.4);
    assertThat(saidSize / Math.sqrt(size)).isBetween(0.7, 1.4);
  }
}
