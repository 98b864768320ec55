package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.ReceivedFile;
import flarvo.report.Note;
import flarvo.scene.Group;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Tracker groups sent as one cloud of points each, beside others that are locators. */
class CloudsTest {

  @TempDir private Path dir;

  private static final Contents CLOUDS =
      Contents.CAMERA_AND_TRACKERS.withClouds(Set.of("wall", "cart"));

  /** With letters of other scripts, and one group that moves. */
  private static Shot shot() {
    Shot s = TestShots.walkFrom(1001, 5, 30, 5);
    TrackerSet all = s.trackers().get(0);
    Group cart =
        Group.moving(
            "rig",
            PoseTrack.of(
                s.frames(),
                f ->
                    new Pose(
                        new Vec3(0.1 * (f - 1001), 0, 0),
                        Rotation.about(new Vec3(0, 1, 0), 0.05 * (f - 1001)))));
    return s.withTrackers(
        List.of(
            all.without(Set.copyOf(all.names().subList(0, 5))).named("wall"),
            all.without(Set.copyOf(all.names().subList(5, 30))).named("floor"),
            TrackerSet.of(
                    "cart", List.of("追跡", "a \"b\""), new double[] {0.1, 0.2, 0.3, -0.4, 0.1, 0.2})
                .inGroup(Optional.of(cart))));
  }

  private static Delivery delivery(String format, Dialect d, Contents c) {
    SceneFormat f = Formats.byId(format);
    return new Delivery("d", d, f, c, "d" + f.extensions().get(0));
  }

  private Path file(Delivery d) {
    return dir.resolve(d.fileName());
  }

  private ProofReport send(Delivery d) {
    return Handover.send(Outgoing.of(shot()), d, file(d), 0.01, List.of(), Progress.NONE).proof();
  }

  private static List<String> failed(ProofReport r) {
    return r.checks().stream().filter(c -> !c.holds()).map(Check::name).toList();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"usd-text", "usd-crate", "usd-package", "alembic", "gltf-binary", "gltf-text"})
  void theyComeAsPointsWithTheirNamesInEveryDialect(String format) {
    for (Dialect dialect : Dialects.shipped().all()) {
      Delivery d = delivery(format, dialect, CLOUDS);
      ProofReport r = send(d);
      assertThat(failed(r)).as("%s in %s: %s", dialect.name(), format, r).isEmpty();
      assertThat(r.checks()).anyMatch(c -> c.name().equals("clouds"));
      ReceivedFile read = ReceivedFile.read(file(d), Optional.of(dialect), Progress.NONE);
      assertThat(read.scene().clouds()).containsExactlyInAnyOrder("wall", "cart");
      assertThat(read.scene().trackers())
          .extracting(TrackerSet::name)
          .containsExactlyInAnyOrder("wall", "floor", "cart");
    }
  }

  @Test
  void locatorsWherePointsWereAskedForDoNotHold() {
    Dialect d = Dialects.shipped().get("anim-yup-m");
    for (String format : List.of("usd-text", "alembic", "gltf-text")) {
      send(delivery(format, d, Contents.CAMERA_AND_TRACKERS));
      Delivery asked = delivery(format, d, CLOUDS);
      assertThat(
              failed(
                  Handover.prove(
                      Outgoing.of(shot()), asked, file(asked), 0.01, List.of(), Progress.NONE)))
          .as(format)
          .containsExactly("clouds");
    }
  }

  @Test
  void aPointThatMovedInTheFileIsSeen() throws IOException {
    Delivery d = delivery("usd-text", Dialects.shipped().get("anim-yup-m"), CLOUDS);
    send(d);
    String was = Files.readString(file(d));
    String now =
        was.replaceFirst(
            "point3f\\[\\] points = \\[\\(0, 0, 0\\)", "point3f[] points = [(0, 0, 0.01)");
    assertThat(now).isNotEqualTo(was);
    Files.writeString(file(d), now);
    assertThat(
            Handover.prove(Outgoing.of(shot()), d, file(d), 0.01, List.of(), Progress.NONE).holds())
        .isFalse();
  }

  @Test
  void whereAFormatHasNoCloudsItSaysSo() {
    ProofReport r = send(delivery("fbx-binary", Dialects.shipped().get("anim-yup-m"), CLOUDS));
    assertThat(r.holds()).isTrue();
    assertThat(r.losses())
        .extracting(Note::toString)
        .anyMatch(n -> n.contains("no clouds of points"));
    for (String same : List.of("scene-json", "table")) {
      assertThat(send(delivery(same, Dialects.shipped().get("comp-yup"), CLOUDS)).holds()).isTrue();
    }
  }

  private void spoiled(Delivery d, String text) throws IOException {
    assertThat(text).isNotEqualTo(Files.readString(file(d)));
    Files.writeString(file(d), text);
    ProofReport r = Handover.prove(Outgoing.of(shot()), d, file(d), 0.01, List.of(), Progress.NONE);
    assertThat(failed(r)).contains("locatorSize");
    assertThat(r.holds()).isFalse();
  }

  @ParameterizedTest
  @ValueSource(strings = {"alembic", "gltf-binary", "scene-json", "table"})
  void whereAFormatHasNoSizesOfLocatorsItSaysSo(String format) {
    Contents c = CLOUDS.withLocators(OptionalDouble.of(0.25));
    ProofReport r = send(delivery(format, Dialects.shipped().get("comp-yup"), c));
    assertThat(r.losses()).extracting(Note::toString).anyMatch(n -> n.contains("size of locators"));
    assertThat(r.checks()).extracting(Check::name).doesNotContain("locatorSize");
  }

  @Test
  void locatorsAreAsLargeAsAskedFor() throws IOException {
    Contents c = CLOUDS.withLocators(OptionalDouble.of(0.25));
    Dialect cm = Dialects.shipped().get("anim-yup-cm");
    Delivery usd = delivery("usd-text", cm, c);
    assertThat(failed(send(usd))).isEmpty();
    assertThat(Files.readString(file(usd)))
        .contains("userProperties:locatorSize = 25")
        .contains("float[] widths = [25]");
    Delivery fbx = delivery("fbx-text", cm, c);
    assertThat(failed(send(fbx))).isEmpty();
    String was = Files.readString(file(fbx));
    assertThat(was).containsPattern("\"Size\", \"double\", \"Number\", \"\",\\s*25");
    // One locator alone is another size than the rest.
    spoiled(fbx, was.replaceFirst("(\"Size\", \"double\", \"Number\", \"\",\\s*)25", "$130"));
    spoiled(fbx, was.replaceAll("(\"Size\", \"double\", \"Number\", \"\",\\s*)25", "$12.5"));
    String lines = Files.readString(file(usd));
    spoiled(usd, lines.replace("locatorSize = 25", "locatorSize = 26"));
    spoiled(usd, lines.replaceFirst("widths = \\[25]", "widths = [0.25]"));
    spoiled(usd, lines.replaceFirst("\n.*locatorSize = 25", ""));
    assertThatThrownBy(() -> c.withLocators(OptionalDouble.of(0)))
        .hasMessageContaining("larger than 0 m");
  }
}
