package flarvo.tools.deliveries;

import flarvo.decision.ShotState;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A shot with something of every kind that can be built on it. */
final class BuiltShot {

  private BuiltShot() {}

  /** With a card through three trackers that stand still, and a gauge of each kind on others. */
  static ShotState of(ShotState s) {
    Shot shot = s.shot();
    Map<String, Vec3> places = TrackerSet.stillPositions(shot.trackers());
    List<Vec3> at = new ArrayList<>(places.values());
    Staging t = s.staging();
    List<Gauge> gauges = new ArrayList<>(t.gauges());
    int next = at.size() / 2;
    for (Gauge.Kind k : Gauge.Kind.values()) {
      Vec3 foot = at.get(next++);
      gauges.add(new Gauge(k.word() + "_of_the_table", k, foot, k.usual(), 0.3, Optional.empty()));
    }
    List<StandIn> standIns = new ArrayList<>(t.standIns());
    Vec3 eye = shot.camera().orElseThrow().poses().at(shot.frames().first()).position();
    List<Vec3> corners = List.of(at.get(0), at.get(at.size() / 3), at.get(at.size() - 1));
    standIns.add(StandIn.card("panel", "", corners, eye));
    return s.withStaging(t.withGauges(gauges).withStandIns(standIns));
  }
}
