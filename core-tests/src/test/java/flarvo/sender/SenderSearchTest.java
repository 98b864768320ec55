package flarvo.sender;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.convention.DialectJson;
import flarvo.convention.Dialects;
import flarvo.convention.LensShift;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.format.table.TableAdvice;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.suspect.SpoiledFiles;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files in a known dialect, with everything taken out of them that states it. */
@Tag("numeric")
class SenderSearchTest {

  /** {@code -Dflarvo.senders=true} takes every shipped dialect, and not one in three. */
  private static final boolean EVERY = Boolean.getBoolean("flarvo.senders");

  @TempDir private Path dir;

  private final Shot truth = SpoiledFiles.truth(SpoiledFiles.Move.FREE, 60, 80, 5);
  private final Observations tracks = SpoiledFiles.tracks(truth, 5);
  private final IntakeOptions options = IntakeOptions.NONE.withSize(SpoiledFiles.PICTURE);

  private List<Path> sent(Dialect to, String format) throws IOException {
    Path out = dir.resolve(to.name() + "-" + format + Formats.byId(format).extensions().get(0));
    Delivery d =
        new Delivery(
            "d",
            to,
            Formats.byId(format),
            Contents.CAMERA_AND_TRACKERS,
            out.getFileName().toString());
    Dispatcher.send(truth, d, out, Progress.NONE);
    List<Path> all = new ArrayList<>(List.of(out));
    all.addAll(Dispatcher.companions(truth, d, out));
    for (Path p : all) {
      if (p.toString().endsWith(".csv")) {
        silence(p);
      }
    }
    return all;
  }

  /** Without the lines in which our tables say how they speak. */
  private static void silence(Path p) throws IOException {
    Files.write(p, Files.readAllLines(p).stream().filter(l -> !l.startsWith("#")).toList());
  }

  private SenderReport search(List<Path> files, Optional<Shot> trusted) {
    return SenderSearch.of(read(files), options, tracks, trusted, "sender", Progress.NONE);
  }

  private Function<Dialect, ReceivedSet> read(List<Path> files) {
    return d -> {
      IntakeOptions as = options.withFrom(d);
      return new ShotIntake(TableAdvice.NONE).add(files.get(0), as, Progress.NONE).received(as);
    };
  }

  private Finding part(SenderReport r, String name) {
    return r.findings().stream().filter(f -> f.part().equals(name)).findFirst().orElseThrow();
  }

  @Test
  void aTableOfEveryDialectIsReadAsItWasMeantOnceItsDialectIsFound() throws IOException {
    List<String> wrong = new ArrayList<>();
    List<Dialect> all = new ArrayList<>(Dialects.shipped().all());
    all.removeIf(d -> d.pixels().isPresent()); // its origin is no part of the search
    int step = EVERY ? 1 : 3;
    for (int k = 0; k < all.size(); k += step) {
      Dialect d = all.get(k);
      List<Path> files = sent(d, "table");
      SenderReport r = search(files, Optional.of(truth));
      Dialect f = r.dialect();
      // Who knows no lens shift cannot send this shot; all else is found all the same.
      boolean shifted = d.film().shift() != LensShift.IGNORED;
      assertThat(r.besides()).as(d.name()).hasSize(shifted ? 0 : 1);
      boolean right =
          (r.errorPx() < 0.6 || !shifted)
              && f.world().equals(d.world())
              && f.camera().equals(d.camera())
              && f.unit().equals(d.unit())
              && f.rotationOrder() == d.rotationOrder()
              && f.angles() == d.angles()
              && f.frames()
                  .mapFor(truth.frames(), truth.rate())
                  .recipientFrames()
                  .equals(d.frames().mapFor(truth.frames(), truth.rate()).recipientFrames());
      if (!right) {
        wrong.add(d.name() + ": " + r.errorPx() + " " + r.findings());
      }
    }
    assertThat(wrong).isEmpty();
  }

  @Test
  void tracksAloneShowCameraHandAndAnglesAndLeaveTheWorldOpen() throws IOException {
    Dialect d = Dialects.shipped().get("engine-zup-left-cm");
    SenderReport r = search(sent(d, "table"), Optional.empty());
    assertThat(r.errorPx()).isLessThan(0.6);
    assertThat(r.plainPx()).isGreaterThan(50);
    assertThat(part(r, "hand").value()).isEqualTo("left");
    assertThat(part(r, "hand").known()).isEqualTo(Known.MEASURED);
    assertThat(part(r, "camera axes").known()).isEqualTo(Known.MEASURED);
    assertThat(part(r, "rotation").known()).isEqualTo(Known.MEASURED);
    assertThat(part(r, "unit").known()).isEqualTo(Known.OPEN);
    // The camera stands upright, and that is all that there is to see.
    assertThat(part(r, "world axes").known()).isEqualTo(Known.LIKELY);
    assertThat(r.dialect().world().up()).isEqualTo(d.world().up());
  }

  @Test
  void sceneFilesAreMeasuredToo() throws IOException {
    String[][] sent = {
      {"usd-text", "anim-zup-m"},
      {"fbx-binary", "anim-yup-cm"},
      {"usd-crate", "comp-yup"},
      {"alembic", "track-zup"},
      {"scene-json", "track-ydown-mm"}
    };
    for (String[] s : sent) {
      Dialect d = Dialects.shipped().get(s[1]);
      SenderReport r = search(sent(d, s[0]), Optional.of(truth));
      assertThat(r.errorPx()).as(s[0] + r.findings()).isLessThan(0.6);
      assertThat(r.besides()).as(s[0]).isEmpty();
      assertThat(r.dialect().world()).as(s[0] + r.findings()).isEqualTo(d.world());
      assertThat(r.dialect().unit().metresPerUnit())
          .as(s[0])
          .isCloseTo(d.unit().metresPerUnit(), within(1e-4 * d.unit().metresPerUnit()));
    }
  }

  @Test
  void aSenderWhoCountsFromAnotherFrameAndOnAnotherBackIsFound() throws IOException {
    Dialect d = Dialects.shipped().get("anim-zup-m");
    List<Path> files = sent(d.withFrames(d.frames().withFirstFrame(1004)), "table");
    // The back that the table states is not the one that was filmed on.
    Path table = files.get(0);
    String text = Files.readString(table);
    assertThat(text).contains("24.576");
    Files.writeString(table, text.replace("24.576", "36.864").replace("13.824", "20.736"));
    SenderReport r = search(files, Optional.of(truth));
    assertThat(r.errorPx()).as(r.besides() + " " + r.findings()).isLessThan(0.6);
    assertThat(r.dialect().frames().firstFrame()).hasValue(1004);
    assertThat(part(r, "first frame").known()).isEqualTo(Known.MEASURED);
    assertThat(part(r, "film back").known()).isEqualTo(Known.MEASURED);
    assertThat(r.dialect().film().assumed().widthMm()).isCloseTo(24.576, within(0.03));
    assertThat(r.dialect().rotationOrder()).isEqualTo(d.rotationOrder());
  }

  @Test
  void whatTurnsAgainstTheShotHasNoAxes() throws IOException {
    Dialect d = Dialects.shipped().get("anim-yup-m");
    Shot askew =
        truth.withLevel(
            new Similarity(0.37, Rotation.about(new Vec3(1, 2, 3), 0.5), new Vec3(4, 5, 6)));
    SenderReport r = search(sent(d, "table"), Optional.of(askew));
    assertThat(part(r, "world axes").known()).isEqualTo(Known.OPEN);
    assertThat(part(r, "unit").known()).isEqualTo(Known.LIKELY);
    assertThat(part(r, "unit").why()).contains("0.37");
  }

  @Test
  void nothingIsSureOfAFileThatFitsInNoWay() throws IOException {
    Dialect d = Dialects.shipped().get("anim-yup-m");
    List<Path> files = sent(d, "table");
    Shot other = SpoiledFiles.truth(SpoiledFiles.Move.DOLLY, 60, 80, 99);
    SenderReport r =
        SenderSearch.of(
            read(files),
            options,
            SpoiledFiles.tracks(other, 99),
            Optional.empty(),
            "sender",
            Progress.NONE);
    assertThat(r.fits()).isFalse();
    assertThat(r.findings())
        .filteredOn(f -> f.known() == Known.MEASURED)
        .extracting(Finding::part)
        .isEmpty();
  }

  @Test
  void withoutTracksThereIsNothingToMeasure() throws IOException {
    List<Path> files = sent(Dialect.CANONICAL, "usd-text");
    assertThatThrownBy(
            () ->
                SenderSearch.of(
                    read(files), options, Observations.NONE, Optional.empty(), "s", Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no evidence");
  }

  @Test
  void whatIsFoundCanBeKeptAndReadAgain() throws IOException {
    Dialect d = Dialects.shipped().get("engine-zup-left-cm");
    Dialect found = search(sent(d, "table"), Optional.of(truth)).dialect();
    assertThat(DialectJson.read(DialectJson.write(found), "kept")).isEqualTo(found);
  }
}
