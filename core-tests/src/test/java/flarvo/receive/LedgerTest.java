package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.suspect.TrustedSolve;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Files made from one truth contradict each other on purpose; the proposals must lead back. */
class LedgerTest {

  @TempDir private Path dir;

  private static final Shot TRUTH = TestShots.walk(30, 25, 5);

  private Path write(String name, String text) {
    try {
      return Files.writeString(dir.resolve(name), text);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  /** The camera as somebody sends it on: another rate, another first frame, another film back. */
  private Path camera(String rate, int first, FilmBack careless) {
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    ShotCamera c = TRUTH.camera().orElseThrow();
    ShotCamera sent =
        c.withOptics(c.optics().map(o -> o.withFilm(careless.widthMm(), careless.heightMm())));
    Shot shot =
        new Shot(
            "s",
            TRUTH.picture(),
            TRUTH.rate(),
            TRUTH.frames(),
            1001,
            java.util.List.of(sent),
            java.util.List.of(),
            TRUTH.observations(),
            java.util.List.of(),
            TRUTH.level());
    Path file = dir.resolve("camera.fbx");
    Dispatcher.send(
        shot,
        new Delivery(
            "c",
            d.withFrames(d.frames().withFirstFrame(first).withRate(Rate.parse(rate))),
            Formats.byId("fbx-binary"),
            Contents.CAMERA,
            "camera.fbx"),
        file,
        Progress.NONE);
    return file;
  }

  private Path points(String dialect, LinearUnit unit) {
    TrackerSet t =
        Dialects.shipped()
            .get(dialect)
            .withUnit(unit)
            .spaceChange(TRUTH.picture())
            .toDialect(TRUTH.trackers().get(0));
    StringBuilder s = new StringBuilder("tracker,x,y,z\n");
    for (int i = 0; i < t.size(); i++) {
      s.append(t.names().get(i)).append(',').append(t.x(i)).append(',').append(t.y(i));
      s.append(',').append(t.z(i)).append('\n');
    }
    return write("points.csv", s.toString());
  }

  private Path tracks() {
    return write("tracks.csv", TestShots.tracksTable(TRUTH));
  }

  private ReceivedSet take(Path... files) {
    ShotIntake in = new ShotIntake();
    for (Path f : files) {
      in.add(f, IntakeOptions.NONE, Progress.NONE);
    }
    return in.received(IntakeOptions.NONE);
  }

  @ParameterizedTest
  @CsvSource({
    "25,0,36,24,track-zup,1,+Z,m",
    "24,1,36,24,anim-yup-cm,0.01,+Y,cm",
    "25,101,36,20.25,anim-zup-m,0.001,+Z,mm",
    "30,0,24.576,18,comp-yup,0.3048,+Y,foot"
  })
  void proposalsLeadBackToTheTruth(
      String rate,
      int first,
      double width,
      double height,
      String pointsIn,
      double unit,
      String up,
      String unitName) {
    Path log =
        write(
            "log.txt",
            "Take 3. Rate 23.976 fps, 1920 x 1080, frames 1001 - 1030.\n"
                + "Sensor 24.576 x 13.824 mm, 24 mm lens\n");
    ReceivedSet set =
        take(
            camera(rate, first, new FilmBack(width, height)),
            points(pointsIn, new LinearUnit(unit)),
            tracks(),
            log);
    Ledger l = LedgerMaker.of(set, Rulings.NONE);
    Rulings r = l.proposals();
    assertThat(r.of(Fact.RATE)).contains("24000/1001");
    assertThat(r.of(Fact.FIRST_FRAME)).contains("1001");
    assertThat(r.of(Fact.UP_AXIS)).contains(up);
    assertThat(r.of(Fact.UNIT)).contains(unitName);
    assertThat(FilmBacks.parse(r.of(Fact.FILM_BACK).orElseThrow()).widthMm()).isEqualTo(24.576);
    Shot shot = set.shot("s", r);
    assertThat(Reprojection.of(shot).orElseThrow().rmsPx()).isLessThan(0.01);
    assertThat(shot.rate()).isEqualTo(Rate.NTSC_24);
    Ledger after = LedgerMaker.of(set, r);
    assertThat(after.open()).isEmpty();
    assertThat(after.conflicts()).hasSameSizeAs(l.conflicts());
    assertThat(after.asText()).contains("ruled: 24000/1001").contains("line 1");
  }

  @Test
  void everyReadingIsMeasuredAndTheBestComesFirst() {
    ReceivedSet set =
        take(
            camera("25", 0, new FilmBack(36, 24)),
            points("track-zup", LinearUnit.METRE),
            tracks(),
            write("log.txt", "frames 1001-1030, sensor 24.576 x 13.824 mm"));
    Ledger l = LedgerMaker.of(set, Rulings.NONE);
    Conflict film = l.conflict(Fact.FILM_BACK).orElseThrow();
    assertThat(film.evidence()).hasSize(3);
    assertThat(film.evidence().get(0).errorPx()).isLessThan(0.01);
    assertThat(film.evidence().get(1).errorPx()).isGreaterThan(20);
    assertThat(film.sentence()).contains("36 × 24 mm").contains("24.576 × 13.824 mm");
    Conflict first = l.conflict(Fact.FIRST_FRAME).orElseThrow();
    assertThat(first.evidence().get(0).ruling()).isEqualTo("1001");
    assertThat(first.reason()).contains("+1001");
  }

  /** Files that agree with each other, and not with the 2D tracks. */
  @Test
  void aFilmBackThatNobodyStatesIsMeasured() {
    // Of the picture's shape, and of the wrong size; no log.
    ReceivedSet set =
        take(
            camera("24", 1001, new FilmBack(36, 20.25)),
            points("anim-yup-cm", LinearUnit.CENTIMETRE),
            tracks());
    Conflict c = LedgerMaker.of(set, Rulings.NONE).conflict(Fact.FILM_BACK).orElseThrow();
    FilmBack b = FilmBacks.parse(c.proposal());
    assertThat(b.widthMm()).isCloseTo(24.576, within(0.01));
    assertThat(b.heightMm()).isCloseTo(13.824, within(0.01));
    assertThat(c.evidence()).hasSize(2);
    assertThat(c.sentence()).contains("36 × 20.25 mm").contains("does not match its focal length");
    // A log that names another one, and is wrong too.
    ReceivedSet logged =
        take(
            camera("24", 1001, new FilmBack(36, 20.25)),
            points("anim-yup-cm", LinearUnit.CENTIMETRE),
            tracks(),
            write("log.txt", "sensor 30 x 16.875 mm"));
    Conflict two = LedgerMaker.of(logged, Rulings.NONE).conflict(Fact.FILM_BACK).orElseThrow();
    assertThat(FilmBacks.parse(two.proposal()).widthMm()).isCloseTo(24.576, within(0.01));
    assertThat(two.evidence()).hasSize(3);
  }

  @ParameterizedTest
  @CsvSource({"1001, 0", "1004, 3", "999, -2"})
  void aCameraThatIsLateIsMeasuredThoughNobodyStatesOtherFrames(int first, int late) {
    ReceivedSet set =
        take(
            camera("24", first, new FilmBack(24.576, 13.824)),
            points("anim-yup-cm", LinearUnit.CENTIMETRE),
            tracks());
    Ledger l = LedgerMaker.of(set, Rulings.NONE);
    if (late == 0) {
      assertThat(l.conflict(Fact.FIRST_FRAME)).isEmpty();
      assertThat(l.conflict(Fact.FILM_BACK)).isEmpty();
      return;
    }
    Conflict c = l.conflict(Fact.FIRST_FRAME).orElseThrow();
    assertThat(c.proposal()).isEqualTo("1001");
    Shot shot = set.shot("s", l.proposals());
    assertThat(Reprojection.of(shot).orElseThrow().rmsPx()).isLessThan(0.01);
  }

  /** Nobody sent 2D tracks; features have names of their own. */
  @Test
  void featuresOfThePlatesMeasureFramesAndFilmBack() {
    ReceivedSet set =
        take(
            camera("24", 1004, new FilmBack(36, 20.25)),
            points("anim-yup-cm", LinearUnit.CENTIMETRE),
            write("log.txt", "frames 1001-1030, sensor 24.576 x 13.824 mm"));
    Observations.Builder b = new Observations.Builder();
    Observations o = TrustedSolve.tracks(TRUTH);
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        b.add("feature " + n, o.frame(row), o.x(row), o.y(row));
      }
    }
    Ledger without = LedgerMaker.of(set, Rulings.NONE);
    assertThat(without.conflict(Fact.FIRST_FRAME).orElseThrow().evidence()).isEmpty();

    Ledger l = LedgerMaker.of(set, Rulings.NONE, b.build(), Progress.NONE);

    Conflict first = l.conflict(Fact.FIRST_FRAME).orElseThrow();
    assertThat(first.proposal()).isEqualTo("1001");
    assertThat(first.evidence().get(0).errorPx()).isLessThan(0.01);
    assertThat(first.evidence().get(1).errorPx()).isGreaterThan(0.05); // an even orbit
    Conflict film = l.conflict(Fact.FILM_BACK).orElseThrow();
    assertThat(FilmBacks.parse(film.proposal()).widthMm()).isEqualTo(24.576);
    assertThat(film.evidence().get(0).errorPx()).isLessThan(0.01);
    // Points of other names say nothing of units.
    assertThat(l.conflict(Fact.UNIT).orElseThrow().evidence())
        .allSatisfy(e -> assertThat(e.errorPx()).isLessThan(0.01));
  }

  @Test
  void aShapeThatDoesNotFitIsSaidWithoutAnyLog() {
    ReceivedSet set = take(camera("24", 1001, new FilmBack(36, 24)));
    Conflict c = LedgerMaker.of(set, Rulings.NONE).conflict(Fact.FILM_BACK).orElseThrow();
    assertThat(c.sentence()).contains("fits the horizontal view");
    assertThat(c.proposal()).isEqualTo("36x20.25");
    assertThat(c.evidence()).isEmpty();
  }

  @Test
  void filesThatAgreeRaiseNoQuestion() {
    ReceivedSet set =
        take(
            camera("23.976", 1001, new FilmBack(24.576, 13.824)),
            write("log.txt", "rate: 23.976\nframes 1001 to 1030\nsensor 24.576x13.824 mm"));
    assertThat(LedgerMaker.of(set, Rulings.NONE).conflicts()).isEmpty();
  }

  @Test
  void aLogIsReadForWhatItSays() {
    ShotLog log =
        ShotLog.read(
            write(
                "notes.txt",
                """
                Shot at 29.97 fps, interlaced, upper field first.
                Resolution 1920x1080, pixel aspect 1.0
                Frame range: 1 - 250, lens: 35 mm, film back 36 x 24 mm
                World is Z-up, units: cm
                nothing here 12 x 3
                rate 0 fps
                """));
    assertThat(log.claims())
        .extracting(c -> c.fact().id() + "=" + c.text() + "@" + c.place())
        .contains(
            "rate=29.97@line 1",
            "fieldOrder=interlaced@line 1",
            "pictureSize=1920x1080@line 2",
            "pixelAspect=1.0@line 2",
            "firstFrame=1@line 3",
            "lastFrame=250@line 3",
            "frameCount=250@line 3",
            "filmBack=36 × 24 mm@line 3",
            "upAxis=+Z@line 4",
            "unit=cm@line 4")
        .noneMatch(s -> s.endsWith("line 5") || s.endsWith("line 6"));
  }

  @Test
  void aLensSheetIsAClaim() {
    ReceivedSet set =
        take(
            write(
                "lens.json",
                "{\"model\":\"radial\",\"centre\":[0.5,0.5],\"coefficients\":{\"k1\":0.1}}"));
    assertThat(new ClaimCollector(set).claims().get(0).text()).isEqualTo("k1 0.1000");
    Path bad = write("bad.json", "{\"model\":\"radial\",\"coefficients\":{\"k1\":\"x\"}}");
    assertThatThrownBy(() -> take(bad))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("coefficients.k1");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "36x24|36|24",
        "36 mm × 24 mm|36|24",
        "1.417in x 0.945in|35.9918|24.003",
        "full frame|36|24",
      })
  void filmBacksAreTypedInManyWays(String text, double w, double h) {
    FilmBack b = FilmBacks.parse(text);
    assertThat(b.widthMm()).isEqualTo(w, org.assertj.core.api.Assertions.within(1e-9));
    assertThat(b.heightMm()).isEqualTo(h, org.assertj.core.api.Assertions.within(1e-9));
  }

  @ParameterizedTest
  @CsvSource({"rate,0", "firstFrame,1.5", "unit,parsec", "filmBack,wide", "upAxis,W"})
  void rulingsThatMeanNothingNeverComeToBe(String id, String text) {
    Fact<?> fact = Fact.of(id).orElseThrow();
    assertThatThrownBy(() -> Rulings.NONE.with(fact, text))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
