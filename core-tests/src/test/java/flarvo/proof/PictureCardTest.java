package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.convention.RatePolicy;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.dispatch.PictureCard;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.Mesh;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A card that the plates fill: written, read from disk, and proven wrong where it is. */
class PictureCardTest {

  private static final double LIMIT_PX = 0.01;

  @TempDir private Path dir;

  private PlateSequence plates;

  private static Shot bare() {
    return TestShots.walkFrom(1001, 6, 40, 5);
  }

  private Shot shot() {
    return bare().withPlates(List.of(plates));
  }

  @BeforeEach
  void writePlates() throws IOException {
    plates =
        new PlateSequence(
            dir.resolve("plates of it"),
            "p.",
            4,
            ".jpg",
            bare().frames(),
            List.of(),
            TestShots.HD,
            PlateRole.UNDISTORTED);
    Files.createDirectories(plates.folder());
    for (int f = 1001; f <= 1006; f++) {
      Files.writeString(plates.file(f), "no picture, and nobody looks");
    }
  }

  private static Delivery delivery(String dialect, String format, Part... more) {
    Contents c = Contents.CAMERA_AND_TRACKERS.with(Part.CARD, true);
    for (Part p : more) {
      c = c.with(p, true);
    }
    Dialect d = Dialects.shipped().get(dialect);
    SceneFormat f = Formats.byId(format);
    return new Delivery("d", d, f, c, "d" + f.extensions().get(0));
  }

  private Path file(Delivery d) {
    return dir.resolve("out").resolve(d.fileName());
  }

  private Handover send(Shot s, Delivery d) {
    return Handover.send(Outgoing.of(s), d, file(d), LIMIT_PX, List.of(), Progress.NONE);
  }

  private ProofReport prove(Shot s, Delivery d) {
    return Handover.prove(Outgoing.of(s), d, file(d), LIMIT_PX, List.of(), Progress.NONE);
  }

  private static List<String> failed(ProofReport r) {
    return r.checks().stream().filter(c -> !c.holds()).map(Check::name).toList();
  }

  private static Check check(ProofReport r, String name) {
    return r.checks().stream().filter(c -> c.name().equals(name)).findFirst().orElseThrow();
  }

  private static boolean has(ProofReport r, String name) {
    return r.checks().stream().anyMatch(c -> c.name().equals(name));
  }

  private Mesh read(Delivery d) {
    return ReceivedFile.read(file(d), Optional.of(d.dialect()), Progress.NONE)
        .meshes(TestShots.HD, IntakeOptions.NONE)
        .stream()
        .map(InFile::inFile)
        .filter(m -> m.name().equals(PictureCard.NAME))
        .findFirst()
        .orElseThrow();
  }

  private void damage(Delivery d, UnaryOperator<String> how) throws IOException {
    String was = Files.readString(file(d), StandardCharsets.UTF_8);
    String now = how.apply(was);
    assertThat(now).isNotEqualTo(was);
    Files.writeString(file(d), now, StandardCharsets.UTF_8);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "usd-text",
        "usd-crate",
        "usd-package",
        "fbx-binary",
        "fbx-text",
        "alembic",
        "gltf-binary",
        "gltf-text",
        "scene-json"
      })
  void everyFormatAndDialectHasItsCardInPlace(String format) {
    for (Dialect dialect : Dialects.shipped().all()) {
      if (dialect.pixels().isPresent()) {
        continue;
      }
      Delivery d = delivery(dialect.name(), format);
      ProofReport r = send(shot(), d).proof();
      assertThat(failed(r)).as("%s in %s: %s", dialect.name(), format, r).isEmpty();
      assertThat(r.holds()).isTrue();
      assertThat(has(r, "pictureCard")).isTrue();
      boolean named = !d.format().cannotCarry().contains(SceneFormat.TEXTURES);
      assertThat(has(r, "cardPictures")).as(format).isEqualTo(named);
      assertThat(r.losses().stream().map(Note::toString).anyMatch(n -> n.contains("card is bare")))
          .isEqualTo(!named);
    }
  }

  @Test
  void aTableSaysThatItHoldsNoCard() {
    ProofReport r = send(shot(), delivery(table(), "table")).proof();
    assertThat(r.holds()).isTrue();
    assertThat(r.losses()).anyMatch(n -> n.toString().contains("contain no meshes"));
  }

  private static String table() {
    return Dialects.shipped().all().get(0).name();
  }

  /**
   * The truth here is the middle of four lines of sight, not anything of ours that places cards.
   */
  @Test
  void itsCornersLieOnTheLinesOfSightThroughThePicturesCorners() {
    Delivery d = delivery(table(), "usd-crate");
    Shot s = shot();
    send(s, d);
    Mesh card = read(d);
    ShotCamera c = s.levelled().camera().orElseThrow();
    Pinhole eye = new Pinhole(c, TestShots.HD);
    double[] corners = {0, 1080, 1920, 1080, 1920, 0, 0, 0}; // as the mesh has them, y down
    for (int f = 1001; f <= 1006; f++) {
      eye.at(f);
      int own = f - 1001 + firstFrame(d);
      for (int i = 0; i < 4; i++) {
        Vec3 way = eye.ray(corners[2 * i], corners[2 * i + 1]);
        Vec3 to = card.position(card.faceIndices()[i], own).minus(c.poses().at(f).position());
        assertThat(to.normalized().minus(way).length()).isLessThan(1e-6);
      }
    }
  }

  private static int firstFrame(Delivery d) {
    return d.dialect().frames().mapFor(bare().frames(), bare().rate()).recipientFirst();
  }

  @Test
  void everyFrameHasThePlateOfThatFrame() {
    for (String format : List.of("usd-text", "usd-crate", "fbx-binary", "fbx-text", "scene-json")) {
      Delivery d = delivery(table(), format);
      d = d.withDialect(d.dialect().withFrames(d.dialect().frames().withFirstFrame(1)));
      send(shot(), d);
      Mesh card = read(d);
      for (int f = 1; f <= 6; f++) {
        assertThat(Path.of(card.texture().orElseThrow().at(f)))
            .as(format)
            .isEqualTo(plates.file(1000 + f).toAbsolutePath().normalize());
      }
    }
  }

  @Test
  void whereRatesDifferEveryFrameHasThePlateOfItsSecond() {
    Delivery d = delivery(table(), "usd-text");
    d =
        d.withDialect(
            d.dialect()
                .withFrames(
                    new FrameNumbering(
                        java.util.OptionalInt.of(1),
                        Optional.of(Rate.parse("48")),
                        RatePolicy.KEEP_SECONDS)));
    ProofReport r = send(shot(), d).proof();
    assertThat(failed(r)).isEmpty();
    Mesh card = read(d);
    for (int f = 1; f <= 11; f++) {
      assertThat(card.texture().orElseThrow().at(f))
          .endsWith(
              String.format("p.%04d.jpg", 1001 + nearest((f - 1) * bare().rate().toDouble() / 48)));
    }
  }

  private static int nearest(double plate) {
    return (int) Math.ceil(plate - 0.5 - 1e-9);
  }

  @Test
  void copiesOfThePlatesAreWhatTheCardShows() {
    Delivery d = delivery(table(), "usd-text", Part.PLATES);
    d = d.withDialect(d.dialect().withFrames(d.dialect().frames().withFirstFrame(1)));
    assertThat(failed(send(shot(), d).proof())).isEmpty();
    assertThat(read(d).texture().orElseThrow().at(3)).endsWith("out/d_plates/p.0003.jpg");
  }

  @Test
  void keyedPlatesAreTransparentWhereTheyAre() throws IOException {
    for (String format :
        List.of("usd-text", "usd-crate", "fbx-binary", "gltf-text", "scene-json")) {
      plates = plates.withRole(PlateRole.KEYED);
      Delivery d = delivery(table(), format).withPlate(PlateRole.KEYED);
      assertThat(failed(send(shot(), d).proof())).as(format).isEmpty();
      assertThat(read(d).texture().orElseThrow().alpha()).as(format).isTrue();
    }
  }

  /** A card of one size goes farther away as the lens gets longer, and fills every picture. */
  @Test
  void itFillsThePictureOfAZoomToo() {
    for (String format : List.of("usd-crate", "fbx-binary", "alembic", "scene-json")) {
      Shot s = TestShots.zoom(6, 40, 3);
      Delivery d = delivery(table(), format);
      ProofReport r = send(s, d).proof();
      assertThat(failed(r)).as(format).isEmpty();
      assertThat(r.losses()).anyMatch(n -> n.toString().contains("the card is bare"));
    }
  }

  @Test
  void itFillsAPictureWithLensShiftAndOddPixels() {
    Shot s = bare();
    ShotCamera c = s.camera().orElseThrow();
    Shot odd =
        new Shot(
            s.name(),
            new PictureSize(1920, 1080, 1.5),
            s.rate(),
            s.frames(),
            s.sourceFirstFrame(),
            List.of(
                c.withOptics(
                    OpticsTrack.of(
                        s.frames(), f -> new Optics(30, 36, 13.5, 1 + 0.1 * (f - 1001), -0.7)))),
            s.trackers(),
            s.observations(),
            List.of(),
            s.level());
    assertThat(failed(send(odd, delivery(table(), "usd-crate")).proof())).isEmpty();
  }

  @Test
  void itStandsBehindEverythingUnlessItIsToldWhere() {
    Delivery d = delivery(table(), "usd-text");
    Shot s = shot();
    double behind = PictureCard.behindEverything(s.levelled());
    Pinhole eye = new Pinhole(s.levelled().camera().orElseThrow(), TestShots.HD);
    double far = 0;
    for (int f = 1001; f <= 1006; f++) {
      eye.at(f);
      double[] px = new double[3];
      for (var t : s.levelled().trackers()) {
        for (int i = 0; i < t.size(); i++) {
          eye.project(t, i, px);
          boolean in = px[0] >= 0 && px[0] <= 1920 && px[1] >= 0 && px[1] <= 1080;
          far = Math.max(far, in ? px[2] : 0);
        }
      }
    }
    assertThat(behind).isBetween(1.02 * far, 1.13 * far);
    Handover usual = send(s, d);
    assertThat(check(usual.proof(), "cardDistance").holds()).isTrue();

    Delivery near = d.withContents(d.contents().withCard(OptionalDouble.of(2.5)));
    Handover told = send(s, near);
    assertThat(failed(told.proof())).isEmpty();
    assertThat(told.sent().notes())
        .anyMatch(n -> n.toString().contains("2.5 m from the camera, in front of some"));
    assertThat(check(prove(s, d), "cardDistance").holds()).isTrue(); // nobody asked for a distance
    assertThat(
            check(
                    prove(s, d.withContents(d.contents().withCard(OptionalDouble.of(3)))),
                    "cardDistance")
                .holds())
        .isFalse();
  }

  /** What a mesh that goes along reaches, a card has to clear too. */
  @Test
  void itClearsGeometry() {
    Shot s = shot();
    double before = PictureCard.behindEverything(s.levelled());
    Vec3 eye = s.levelled().camera().orElseThrow().poses().at(1001).toWorld(new Vec3(0, 0, -500));
    Mesh far =
        Mesh.of(
            "far",
            new double[] {
              eye.x(),
              eye.y(),
              eye.z(),
              eye.x() + 1,
              eye.y(),
              eye.z(),
              eye.x(),
              eye.y() + 1,
              eye.z()
            },
            new int[] {3},
            new int[] {0, 1, 2});
    Shot with = s.withMeshes(List.of(far));
    assertThat(before).isLessThan(400);
    assertThat(PictureCard.behindEverything(with.levelled())).isBetween(500.0, 560.0);
  }

  @Test
  void aFarPlaneThatWouldCutItMoves() {
    Shot s = shot();
    ShotCamera c = s.camera().orElseThrow();
    Shot clipped = s.withCameras(List.of(c.withClip(new ClipRange(0.1, 0.9 * reach(s)))));
    Delivery d = delivery(table(), "usd-text");
    Handover h = send(clipped, d);
    assertThat(failed(h.proof())).isEmpty();
    assertThat(h.sent().notes())
        .anyMatch(n -> n.toString().contains("so that the picture card is seen"));
  }

  private static double reach(Shot s) {
    return PictureCard.behindEverything(s.levelled());
  }

  /** In Proof and in the note a card would lie over the plate that it is compared with. */
  @Test
  void whatIsLookedAtHasNoCardInFrontOfThePlate() {
    Handover h = send(shot(), delivery(table(), "usd-text"));
    assertThat(read(delivery(table(), "usd-text")).points()).isEqualTo(4);
    assertThat(h.seen().orElseThrow().meshes()).isEmpty();
  }

  @Test
  void aCardThatIsNotThereDoesNotHold() {
    Delivery d = delivery(table(), "usd-text");
    send(shot(), d.withContents(d.contents().with(Part.CARD, false)));
    assertThat(failed(prove(shot(), d))).contains("pictureCard");
  }

  @Test
  void aCardOfAnotherSizeDoesNotHold() throws IOException {
    Delivery d = delivery(table(), "scene-json");
    send(shot(), d);
    damage(
        d,
        s ->
            s.replaceFirst(
                "(\"name\"\\s*:\\s*\"picture_card\"[^\\[]*\"points\"\\s*:\\s*\\[\\s*)-?[0-9.]+",
                "$1-1.0"));
    assertThat(failed(prove(shot(), d))).contains("pictureCard");
  }

  @Test
  void aCardWithItsPictureUpsideDownDoesNotHold() throws IOException {
    Delivery d = delivery(table(), "usd-text");
    send(shot(), d);
    damage(
        d, s -> s.replace("[(0, 0), (1, 0), (1, 1), (0, 1)]", "[(0, 1), (1, 1), (1, 0), (0, 0)]"));
    assertThat(failed(prove(shot(), d))).contains("pictureCard");
  }

  @Test
  void picturesOneFrameLateDoNotHold() throws IOException {
    Delivery usd = delivery(table(), "usd-text");
    send(shot(), usd);
    damage(usd, s -> s.replace("p.1004.jpg", "p.1003.jpg"));
    assertThat(failed(prove(shot(), usd))).containsExactly("cardPictures");

    Delivery fbx = delivery(table(), "fbx-text");
    send(shot(), fbx);
    damage(
        fbx,
        s ->
            s.replaceAll(
                "(\"ImageSequenceOffset\", \"int\", \"Integer\", \"\",\\s*)(-?\\d+)", "$19999"));
    assertThat(failed(prove(shot(), fbx))).containsExactly("cardPictures");
  }

  @Test
  void aPictureThatIsGoneDoesNotHold() throws IOException {
    Delivery d = delivery(table(), "fbx-binary");
    send(shot(), d);
    Files.delete(plates.file(1005));
    assertThat(failed(prove(shot(), d))).containsExactly("cardPictures");
  }

  @Test
  void framesWithoutAPlateAreNobodysFault() {
    plates =
        new PlateSequence(
            plates.folder(),
            "p.",
            4,
            ".jpg",
            bare().frames(),
            List.of(1003),
            TestShots.HD,
            PlateRole.UNDISTORTED);
    for (String format : List.of("usd-text", "fbx-binary", "scene-json")) {
      assertThat(failed(send(shot(), delivery(table(), format)).proof())).as(format).isEmpty();
    }
  }

  /** A card alone is seen through the shot's own camera. */
  @Test
  void aCardAloneIsProven() throws IOException {
    Delivery d = delivery(table(), "usd-text");
    Delivery alone = d.withContents(Contents.of(Part.CARD));
    Handover h = send(shot(), alone);
    assertThat(failed(h.proof())).isEmpty();
    assertThat(h.proof().holds()).isTrue();
    damage(
        alone,
        s ->
            s.replaceFirst(
                "double3 xformOp:translate = \\([^)]*\\)",
                "double3 xformOp:translate = (1, 2, 3)"));
    assertThat(prove(shot(), alone).holds()).isFalse();
  }

  @Test
  void picturesOfAMeshThatCameInAreCarriedOn() throws IOException {
    Delivery d = delivery(table(), "usd-text");
    send(shot(), d);
    Mesh card = read(d);
    Shot s = bare().withMeshes(List.of(card));
    for (String format : List.of("usd-crate", "fbx-binary", "scene-json")) {
      Delivery on =
          delivery(table(), format)
              .withContents(Contents.WITH_GEOMETRY)
              .withFileName("deep/er/on" + Formats.byId(format).extensions().get(0));
      Handover h = send(s, on);
      assertThat(failed(h.proof())).as("%s %s", format, h.proof()).isEmpty();
      Mesh there = read(on);
      assertThat(there.texture().orElseThrow().at(1004))
          .isEqualTo(card.texture().orElseThrow().at(1004));
      Files.writeString(file(on), ""); // and its proof looks at them
    }
    Delivery json = delivery(table(), "scene-json").withContents(Contents.WITH_GEOMETRY);
    send(s, json);
    damage(json, t -> t.replace("p.1002.jpg", "q.1002.jpg"));
    assertThat(failed(prove(s, json))).containsExactly("geometry");
  }

  @Test
  void aDistanceIsOverZero() {
    assertThatThrownBy(() -> Contents.of(Part.CARD).withCard(OptionalDouble.of(0)))
        .hasMessageContaining("over 0 m");
    assertThat(Contents.of(Part.CARD).withCard(OptionalDouble.of(4)).cardMetres().getAsDouble())
        .isEqualTo(4, within(0.0));
  }
}
