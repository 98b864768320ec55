package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.InFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.report.Note;
import flarvo.scene.Inset;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A camera that goes with plates that have overscan puts every tracker on the same feature. */
class OverscanDeliveryTest {

  private static final PictureSize PICTURE = PictureSize.of(1920, 1080);
  private static final PictureSize LARGE = PictureSize.of(2113, 1190); // odd: half a pixel

  @TempDir Path dir;
  private final Dialects dialects = Dialects.shipped();

  private PlateSequence plates(PlateRole role, PictureSize size) {
    return new PlateSequence(
            dir.resolve(role.word()), "p.", 4, ".exr", shot().frames(), List.of(), size, role)
        .around(PICTURE);
  }

  private static Shot shot() {
    return TestShots.walk(24, 30, 5);
  }

  private Shot withPlates() {
    return shot()
        .withPlates(
            List.of(plates(PlateRole.UNDISTORTED, LARGE), plates(PlateRole.ORIGINAL, PICTURE)));
  }

  /** Off the centre, and zooming. */
  private static Shot shifted(Shot s) {
    ShotCamera c = s.camera().orElseThrow();
    return s.withCameras(
        List.of(
            c.withOptics(
                OpticsTrack.of(
                    c.frames(),
                    f -> {
                      Optics o = c.optics().at(f);
                      return new Optics(
                          o.focalLengthMm() + 0.1 * (f - c.frames().first()),
                          o.filmWidthMm(),
                          o.filmHeightMm(),
                          0.7,
                          -0.4);
                    }))));
  }

  private Path file(SceneFormat format) {
    return dir.resolve("d" + format.extensions().get(0));
  }

  private Delivery delivery(Dialect d, SceneFormat f) {
    return new Delivery("d", d, f, Contents.CAMERA_AND_TRACKERS, "d");
  }

  private static ProofReport prove(Shot s, Delivery d, Path file) {
    return Proof.of(
        s, file, d.dialect(), d.contents(), d.extract(), ProofReport.USUAL_LIMIT_PX, Progress.NONE);
  }

  private static Check check(ProofReport r, String name) {
    return r.checks().stream().filter(c -> c.name().equals(name)).findFirst().orElseThrow();
  }

  /** Plates of a part off the centre: the lens shift makes up for it, or is said to be lost. */
  @Test
  void aPartOffTheCentreHoldsToo() {
    Inset where = new Inset(PICTURE, -412, -96);
    PlateSequence part = plates(PlateRole.UNDISTORTED, PictureSize.of(1200, 900)).around(where);
    Shot s = shifted(shot()).withPlates(List.of(part));
    for (SceneFormat f : Formats.all().stream().filter(SceneFormat::writes).toList()) {
      Delivery d = delivery(dialects.get("anim-yup-cm"), f);
      Dispatcher.Sent sent = Dispatcher.send(s, d, file(f), Progress.NONE);
      ProofReport r = prove(s, d, file(f));
      assertThat(sent.notes().stream().map(Note::toString))
          .anyMatch(
              n -> n.contains("the plates show a part, 1200x900 of 1920x1080, off its centre"));
      if (sent.notes().stream().anyMatch(n -> n.toString().contains("lens shift"))) {
        continue; // said
      }
      assertThat(r.holds()).as("%s: %s", f.id(), r.checks()).isTrue();
      double off = Double.parseDouble(check(r, "overscan").found().replace(" px", ""));
      assertThat(off).as(f.id()).isLessThan(1e-2);
    }
    // The same plates taken for a part somewhere else: the proof sees it.
    SceneFormat usd = Formats.byId("usd-text");
    Delivery d = delivery(dialects.get("anim-yup-cm"), usd);
    Dispatcher.send(s, d, file(usd), Progress.NONE);
    Shot moved = s.withPlates(List.of(part.around(new Inset(PICTURE, -412, -97))));
    assertThat(prove(moved, d, file(usd)).holds()).isFalse();
  }

  @Test
  void everyFormatAndDialectHolds() {
    for (SceneFormat f : Formats.all().stream().filter(SceneFormat::writes).toList()) {
      for (String dialect : List.of("anim-yup-cm", "engine-zup-left-cm", "comp-yup")) {
        Delivery d = delivery(dialects.get(dialect), f);
        Shot s = withPlates();
        Dispatcher.Sent sent = Dispatcher.send(s, d, file(f), Progress.NONE);
        ProofReport r = prove(s, d, file(f));
        assertThat(r.holds()).as("%s in %s: %s", f.id(), dialect, r.checks()).isTrue();
        double off = Double.parseDouble(check(r, "overscan").found().replace(" px", ""));
        assertThat(off).as("%s in %s", f.id(), dialect).isLessThan(1e-2);
        assertThat(sent.notes().stream().map(Note::toString))
            .anyMatch(n -> n.contains("overscan, 2113x1190 round 1920x1080"));
      }
    }
  }

  /** To a millionth of a pixel, principal point and zoom included, from the file on disk. */
  @Test
  void theSameFeatureToAMillionthOfAPixel() {
    Shot s = shifted(withPlates());
    Delivery d = delivery(dialects.get("anim-yup-cm"), Formats.byId("scene-json"));
    Dispatcher.send(s, d, file(d.format()), Progress.NONE);
    ReceivedFile read =
        ReceivedFile.read(file(d.format()), Optional.of(d.dialect()), Progress.NONE);
    ShotCamera there = read.cameras(LARGE, IntakeOptions.NONE.withSize(LARGE)).get(0).inFile();
    List<TrackerSet> trackers =
        read.trackers(LARGE, IntakeOptions.NONE).stream().map(InFile::inFile).toList();
    Pinhole p = new Pinhole(s.levelled().camera().orElseThrow(), PICTURE);
    Pinhole q = new Pinhole(there, LARGE);
    double[] a = new double[3];
    double[] b = new double[3];
    int shift = there.frames().first() - s.frames().first();
    for (int f = s.frames().first(); f <= s.frames().last(); f++) {
      for (int i = 0; i < trackers.get(0).size(); i++) {
        p.at(f).project(s.levelled().trackers().get(0), i, a);
        q.at(f + shift).project(trackers.get(0), i, b);
        assertThat(b[0]).isCloseTo(a[0] + 96.5, within(1e-6));
        assertThat(b[1]).isCloseTo(a[1] + 55, within(1e-6));
      }
    }
  }

  /** The camera of the picture without overscan, passed off as that of the larger plates. */
  @Test
  void aFilmBackThatDidNotGrowIsAFault() {
    Shot s = withPlates();
    Delivery d = delivery(dialects.get("anim-yup-cm"), Formats.byId("usd-text"));
    Dispatcher.send(s, d.withPlate(PlateRole.ORIGINAL), file(d.format()), Progress.NONE);
    ProofReport r = prove(s, d, file(d.format()));
    assertThat(r.holds()).isFalse();
    assertThat(r.checks().stream().filter(c -> !c.holds()).map(Check::name))
        .contains("filmBack", "overscan", "plate", "pictureSize");
    assertThat(prove(s, d.withPlate(PlateRole.ORIGINAL), file(d.format())).holds()).isTrue();
  }

  @Test
  void tracksMoveWithTheirFeatures() {
    Observations.Builder b = new Observations.Builder();
    b.add("t", 1, 10, 20);
    Shot s = withPlates().withObservations(b.build());
    Observations o = s.over(PlateRole.UNDISTORTED).observations();
    assertThat(o.x(0)).isEqualTo(106.5);
    assertThat(o.y(0)).isEqualTo(75);
    assertThat(s.over(PlateRole.ORIGINAL).observations()).isEqualTo(s.observations());
    assertThat(s.over(PlateRole.ORIGINAL).picture()).isEqualTo(PICTURE);
  }

  /** Plates round a picture of another size than the camera's: nothing is grown, and it is said. */
  @Test
  void overscanRoundAnotherPictureIsSaid() {
    PlateSequence other = plates(PlateRole.UNDISTORTED, LARGE).around(PictureSize.of(2048, 1152));
    Shot s = shot().withPlates(List.of(other));
    assertThat(s.over(PlateRole.UNDISTORTED).picture()).isEqualTo(PICTURE);
    Delivery d = delivery(dialects.get("comp-yup"), Formats.byId("usd-text"));
    assertThat(Dispatcher.send(s, d, file(d.format()), Progress.NONE).notes())
        .anyMatch(n -> n.toString().contains("it does not fit them"));
  }

  /** Without plates of that role the first ones go, and it is said. */
  @Test
  void missingPlatesAreSaid() {
    Shot s = shot().withPlates(List.of(plates(PlateRole.ORIGINAL, PICTURE)));
    Delivery d = delivery(dialects.get("comp-yup"), Formats.byId("usd-text"));
    Dispatcher.Sent sent = Dispatcher.send(s, d, file(d.format()), Progress.NONE);
    assertThat(sent.notes().stream().map(Note::toString))
        .anyMatch(n -> n.contains("no undistorted plates; the original ones go with it"));
    assertThat(shot().over(PlateRole.UNDISTORTED)).isEqualTo(shot());
  }
}
