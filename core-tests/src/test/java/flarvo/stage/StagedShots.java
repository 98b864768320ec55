package flarvo.stage;

import flarvo.TestShots;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.List;
import java.util.Optional;

/** A shot with one of everything built on it. */
public final class StagedShots {

  public static final Similarity LEVEL =
      new Similarity(
          1.7, Rotation.about(new Vec3(0.3, 1, -0.2).normalized(), 0.6), new Vec3(0.2, 0.4, -1));

  private StagedShots() {}

  public static Shot shot() {
    return TestShots.walk(12, 20, 4).withLevel(LEVEL);
  }

  /** With 2D tracks where the camera sees the trackers. */
  public static Shot tracked(Shot s) {
    Observations.Builder o = new Observations.Builder();
    Pinhole p = new Pinhole(s.cameras().get(0), s.picture());
    double[] px = new double[3];
    TrackerSet t = s.trackers().get(0);
    for (int i = 0; i < t.size(); i++) {
      for (int f = s.frames().first(); f <= s.frames().last(); f++) {
        p.at(f).project(t, i, px);
        if (px[2] > 0) {
          o.add(t.names().get(i), f, px[0], px[1]);
        }
      }
    }
    return s.withObservations(o.build());
  }

  public static Staging staging(Shot s) {
    List<String> names = s.trackers().get(0).names();
    Vec3 eye = s.cameras().get(0).poses().at(1001).position();
    StandIn card =
        StandIn.card(
            "window card",
            "set",
            List.of(
                s.trackers().get(0).position(0),
                s.trackers().get(0).position(1),
                s.trackers().get(0).position(2)),
            eye);
    StandIn box =
        StandIn.box(
            "plinth", "set", new Vec3(-0.3, 0, -0.2), new Vec3(0.4, 0, 0.5), 0.9, s.level());
    return Staging.NONE
        .withStandIns(List.of(card, box))
        .withLocators(
            List.of(
                new Locator("door", "marks", names.get(3), Vec3.ZERO, 0.2),
                new Locator(names.get(5), "marks", names.get(4), Vec3.ZERO, 0.2)))
        .withGauges(
            List.of(
                new Gauge(
                    "post1", Gauge.Kind.POST, Vec3.ZERO, 1.2, 0.3, Optional.of(names.get(6)))));
  }
}
