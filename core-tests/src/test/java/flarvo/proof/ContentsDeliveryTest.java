package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.DeliveryFiles;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.lens.BrownConrady;
import flarvo.lens.Lens;
import flarvo.lens.LensTrack;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.report.Note;
import flarvo.scene.Mesh;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Gauges, geometry and groups of trackers, sent or left out one by one. */
class ContentsDeliveryTest {

  private static final Similarity LEVEL =
      new Similarity(2.5, Rotation.about(new Vec3(1, 2, 3), 0.7), new Vec3(4, -1, 2));

  @TempDir private Path dir;

  private static Shot shot() {
    Shot s = TestShots.walkFrom(1001, 4, 30, 5).withLevel(LEVEL);
    TrackerSet all = s.trackers().get(0);
    return s.withTrackers(
            List.of(
                all.without(Set.copyOf(all.names().subList(0, 5))).named("wall"),
                all.without(Set.copyOf(all.names().subList(5, all.size()))).named("floor")))
        .withMeshes(List.of(triangle("one", 0), triangle("two", 1)));
  }

  private static Mesh triangle(String name, double x) {
    return Mesh.of(
        name, new double[] {x, 0, 0, x + 1, 0, 0, x, 1, 0}, new int[] {3}, new int[] {0, 1, 2});
  }

  private static List<Gauge> gauges() {
    return List.of(
        new Gauge("post", Gauge.Kind.POST, new Vec3(0.1, 0.2, 0.3), 1.7, 0.4, Optional.empty()),
        new Gauge("crate", Gauge.Kind.CRATE, new Vec3(-1, 0, 2), 0.5, 1.1, Optional.empty()));
  }

  private static Outgoing outgoing() {
    return new Outgoing(
        shot(), Optional.empty(), gauges().stream().map(g -> g.mesh(LEVEL)).toList());
  }

  private static Delivery delivery(String format, Contents c) {
    SceneFormat f = Formats.byId(format);
    return new Delivery(
        "d", Dialects.shipped().get("engine-zup-left-cm"), f, c, "d" + f.extensions().get(0));
  }

  private Path file(Delivery d) {
    return dir.resolve("out").resolve(d.fileName());
  }

  private ProofReport send(Delivery d) {
    return Handover.send(outgoing(), d, file(d), 0.01, List.of(), Progress.NONE).proof();
  }

  private ReceivedFile read(Delivery d) {
    return ReceivedFile.read(file(d), Optional.of(d.dialect()), Progress.NONE);
  }

  private static List<String> failed(ProofReport r) {
    return r.checks().stream().filter(c -> !c.holds()).map(Check::name).toList();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"usd-text", "usd-crate", "fbx-binary", "alembic", "gltf-binary", "scene-json"})
  void gaugesGoAlongAndStandUprightInTheWorld(String format) {
    Delivery d = delivery(format, Contents.CAMERA_AND_TRACKERS.with(Part.GAUGES, true));
    ProofReport r = send(d);
    assertThat(failed(r)).as("%s", r).isEmpty();
    List<Mesh> there =
        read(d).meshes(TestShots.HD, IntakeOptions.NONE).stream().map(InFile::inFile).toList();
    assertThat(there).extracting(Mesh::name).containsExactlyInAnyOrder("post", "crate");
    Mesh post = there.stream().filter(m -> m.name().equals("post")).findFirst().orElseThrow();
    Vec3 foot = LEVEL.apply(gauges().get(0).foot());
    double low = Double.MAX_VALUE;
    double high = -Double.MAX_VALUE;
    for (int i = 0; i < post.points(); i++) {
      Vec3 p = post.position(i, 1001);
      low = Math.min(low, p.y());
      high = Math.max(high, p.y());
      assertThat(Math.hypot(p.x() - foot.x(), p.z() - foot.z())).isLessThan(0.03);
    }
    assertThat(low).isCloseTo(foot.y(), org.assertj.core.api.Assertions.within(1e-4));
    assertThat(high - low).isCloseTo(1.7, org.assertj.core.api.Assertions.within(1e-4));
  }

  /** One group alone is not taken for the file. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "usd-crate",
        "usd-package",
        "fbx-binary",
        "fbx-text",
        "alembic",
        "gltf-text",
        "scene-json"
      })
  void gaugesAloneKeepTheirGroup(String format) {
    ProofReport r = send(delivery(format, Contents.of(Part.GAUGES)));
    assertThat(failed(r)).as("%s", r).isEmpty();
    assertThat(r.holds()).isTrue();
  }

  @Test
  void gaugesAloneAreProvenAndAGaugeThatMovedIsSeen() throws IOException {
    Delivery d = delivery("usd-text", Contents.of(Part.GAUGES));
    assertThat(send(d).holds()).isTrue();
    String was = Files.readString(file(d));
    String now = was.replaceFirst("xformOp:translate = \\(-?", "xformOp:translate = (9");
    assertThat(now).isNotEqualTo(was);
    Files.writeString(file(d), now);
    assertThat(Handover.prove(outgoing(), d, file(d), 0.01, List.of(), Progress.NONE).holds())
        .isFalse();
  }

  @Test
  void aGaugeThatIsMissingIsSeen() {
    Delivery without = delivery("usd-text", Contents.CAMERA_AND_TRACKERS);
    send(without);
    Delivery with = without.withContents(without.contents().with(Part.GAUGES, true));
    assertThat(failed(Handover.prove(outgoing(), with, file(with), 0.01, List.of(), Progress.NONE)))
        .contains("geometry");
  }

  @Test
  void whatIsLeftOutByNameIsNotInTheFileAndIsSaid() {
    Contents all = Contents.WITH_GEOMETRY.with(Part.GAUGES, true);
    assertThat(outgoing().names(all))
        .containsExactly("wall", "floor", "one", "two", "post", "crate");
    for (String format : List.of("usd-crate", "fbx-text", "gltf-text")) {
      Delivery d = delivery(format, all.leavingOut(Set.of("floor", "two", "post")));
      ProofReport r = send(d);
      assertThat(failed(r)).as(format).isEmpty();
      assertThat(r.losses())
          .extracting(Note::toString)
          .anyMatch(n -> n.contains("left out as asked: floor, post, two"));
      assertThat(read(d).scene().trackerCount()).isEqualTo(25);
      assertThat(read(d).scene().meshes())
          .extracting(Mesh::name)
          .containsExactlyInAnyOrder("one", "crate");
    }
    // What comes by its group goes by its group.
    assertThat(outgoing().shot(all.leavingOut(Set.of("gauges"))).meshes())
        .extracting(Mesh::name)
        .containsExactly("one", "two");
  }

  @Test
  void aFileThatHasWhatIsLeftOutIsNoFaultButOneThatLacksTheRestIs() {
    Delivery some = delivery("usd-crate", Contents.WITH_GEOMETRY.leavingOut(Set.of("floor")));
    send(some);
    Delivery all = some.withContents(Contents.WITH_GEOMETRY);
    assertThat(failed(Handover.prove(outgoing(), all, file(all), 0.01, List.of(), Progress.NONE)))
        .contains("trackerCount", "trackerNames");
  }

  @Test
  void everyFileOfADeliveryIsListed() {
    Outgoing from =
        new Outgoing(
            shot(),
            Optional.of(LensTrack.of(Lens.centred(new BrownConrady(-0.05, 0, 0, 0, 0, 0, 0, 0)))));
    Delivery table = delivery("table", Contents.CAMERA_AND_TRACKERS.with(Part.LENS, true));
    Path file = file(table);
    assertThat(DeliveryFiles.of(from, table, file))
        .extracting(p -> p.getFileName().toString())
        .containsExactly("d.csv", "d.trackers.csv", "d_lens.json");
    Handover.send(from, table, file, 0.01, List.of(), Progress.NONE);
    assertThat(DeliveryFiles.of(from, table, file)).allMatch(Files::exists);
  }
}
