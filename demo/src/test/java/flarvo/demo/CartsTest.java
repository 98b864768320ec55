package flarvo.demo;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.decision.ShotState;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.motion.Held;
import flarvo.motion.Parent;
import flarvo.motion.Parents;
import flarvo.motion.Recast;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.proof.Check;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Two carts and a camera that all move, from three solves: as they were, whoever is held. */
class CartsTest {

  @TempDir private Path dir;
  private static Shot shot;

  @BeforeAll
  static void open() {
    ProjectFile p = ProjectFile.read(Path.of("meridian/project.json"));
    ShotState s = new ProjectLoader(p, Dialects.shipped()).load(p.shots().get(3), Progress.NONE);
    assertThat(s.objects()).hasSize(2);
    shot = s.shot();
  }

  private static Map<String, Vec3> truth(FeatureTracks.Tracks t) {
    return TrackerSet.stillPositions(List.of(t.truth()));
  }

  private static TrackerSet set(Shot s, String group) {
    return s.trackers().stream()
        .filter(t -> t.group().map(g -> g.name().equals(group)).orElse(false))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void bothCartsRollAsTheyDid() {
    Shot world = shot.levelled().contents();
    Map<CartsTruth, Map<String, Vec3>> all = new LinkedHashMap<>();
    all.put(CartsTruth.NEAR, truth(CartsTracks.near()));
    all.put(CartsTruth.FAR, truth(CartsTracks.far()));
    int k = 0;
    for (Map.Entry<CartsTruth, Map<String, Vec3>> e : all.entrySet()) {
      TrackerSet cart = set(world, k++ == 0 ? "near_cart" : "far_cart");
      assertThat(cart.moves()).isTrue();
      int compared = 0;
      double worst = 0;
      double away = 0;
      for (int i = 0; i < cart.size(); i++) {
        String name = cart.names().get(i).replaceFirst("^(near|far)_cart_", "");
        Vec3 x = e.getValue().get(name);
        Vec3 from = e.getKey().featuresAt(1001).toWorld(x);
        Vec3 to = e.getKey().featuresAt(1024).toWorld(x);
        double path = to.minus(from).length();
        double came = cart.position(i, 1024).minus(cart.position(i, 1001)).length();
        worst = Math.max(worst, Math.abs(came - path) / path);
        away =
            Math.max(
                away,
                cart.position(i, 1012).minus(e.getKey().featuresAt(1012).toWorld(x)).length());
        compared++;
      }
      System.out.printf(
          "%s: path off by %.3f %%, places by %.4f m%n",
          e.getKey().featuresAt(1001), 100 * worst, away);
      assertThat(compared).isGreaterThan(15);
      assertThat(worst).isLessThan(0.005);
      assertThat(away).isLessThan(0.02);
    }
  }

  /** What is on the plate is where the truth puts it, through the solved camera. */
  @Test
  void everyPointLiesOnItsPixel() {
    Pinhole true_ = new Pinhole(CartsTruth.SHOT.solvedCamera(), ShotTruth.PICTURE);
    Pinhole solved = new Pinhole(shot.cameras().get(0), shot.picture());
    Map<String, Vec3> near = truth(CartsTracks.near());
    TrackerSet cart = set(shot, "near_cart");
    double[] p = new double[3];
    double[] q = new double[3];
    double worst = 0;
    for (int f = 1001; f <= 1024; f++) {
      true_.at(f);
      solved.at(f);
      for (int i = 0; i < cart.size(); i++) {
        Vec3 x = near.get(cart.names().get(i).replace("near_cart_", ""));
        Vec3 w = CartsTruth.NEAR.featuresAt(f).toWorld(x);
        // The camera's pose in the world is that of the scene's solve.
        true_.project(w.x(), w.y(), w.z(), p);
        solved.project(cart, i, q);
        worst = Math.max(worst, Math.hypot(p[0] - q[0], p[1] - q[1]));
      }
    }
    assertThat(worst).isLessThan(1.0);
  }

  @Test
  void everySceneFormatCarriesThemWhoeverIsHeld() {
    Recast n = Recast.NONE;
    Map<String, Recast> all = new LinkedHashMap<>();
    all.put("as solved", n);
    all.put("camera", n.withHeld(Optional.of(Held.camera(1012))));
    all.put("near", n.withHeld(Optional.of(Held.group("near_cart", 1001))));
    all.put(
        "on the far cart, scaled",
        n.withParents(
            Parents.NONE
                .withCameraIn(Optional.of("far_cart"))
                .under(Optional.of(Parent.parse("stage,10,1,0,2,30,0,0")))));
    for (String f : List.of("usd-text", "usd-crate", "fbx-binary", "alembic", "gltf-binary")) {
      for (Map.Entry<String, Recast> e : all.entrySet()) {
        Delivery d =
            new Delivery(
                "d",
                Dialects.shipped().get("anim-yup-cm"),
                Formats.byId(f),
                Contents.CAMERA_AND_TRACKERS,
                Extract.WHOLE.recast(e.getValue()),
                "d");
        Path file = dir.resolve(f + e.getKey() + Formats.byId(f).extensions().get(0));
        ProofReport r =
            Handover.send(Outgoing.of(shot), d, file, 0.01, List.of(), Progress.NONE).proof();
        List<Check> bad = r.checks().stream().filter(c -> !c.holds()).toList();
        assertThat(r.holds()).as(f + " " + e.getKey() + " " + r.sentence() + bad).isTrue();
      }
    }
  }
}
