package flarvo.suspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.report.InputError;
import flarvo.scene.Group;
import flarvo.scene.Observations;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Files that were spoiled in a known way, written, read and searched. {@code -Dflarvo.suspects=N}
 * makes N rounds of single mix-ups and 16 N pairs; a usual run makes one.
 */
@Tag("numeric")
class SuspectTruthTest {

  private static final int ROUNDS = Integer.getInteger("flarvo.suspects", 1);
  private static final int FRAMES = 100;
  private static final int POINTS = 120;

  /** Formats and dialects that files come in, in turn. */
  private static final String[][] FILES = {
    {"usd-text", "comp-yup"},
    {"fbx-binary", "anim-zup-m"},
    {"alembic", "track-zup"},
    {"usd-crate", "anim-yup-cm"},
    {"scene-json", "track-ydown-mm"}
  };

  /** Two that are one, or of which the second takes the first back. */
  private static final Set<Set<String>> ONE =
      Set.of(
          Set.of("world-axes", "handedness"),
          Set.of("lens-shift-sign", "picture-offset"),
          Set.of("frame-shift", "rate-stretch"));

  /** All of these are about the same angles; two of them are not looked for together. */
  private static final Set<String> ANGLES =
      Set.of("rotation-order", "degrees-radians", "channel-sign");

  @TempDir private Path dir;

  private Shot file(Shot s, int which) {
    String[] f = FILES[which % FILES.length];
    return SpoiledFiles.read(s, dir, f[0], f[1]);
  }

  private static SuspectReport search(Shot s, Observations t) {
    return SuspectSearch.of(s, t, OptionalDouble.empty(), Progress.NONE);
  }

  private static Set<String> codes(Suspect s) {
    return s.causes().stream().map(Suspect.Cause::code).collect(Collectors.toSet());
  }

  private static String words(SuspectReport r) {
    return r.suspects().get(0).sentence() + " " + r.suspects().get(0).causes();
  }

  @Test
  void oneMixUpIsRankedFirstWithItsValue() {
    int all = 0;
    List<String> wrong = new ArrayList<>();
    for (int round = 0; round < ROUNDS; round++) {
      for (SpoiledFiles.Move move : SpoiledFiles.Move.values()) {
        long seed = 1000L * round + move.name().length();
        Shot truth = SpoiledFiles.truth(move, FRAMES, POINTS, seed);
        Observations tracks = SpoiledFiles.tracks(truth, seed);
        for (SpoiledFiles.Spoil s : SpoiledFiles.all(move, seed).values()) {
          all++;
          SuspectReport r = search(file(s.file().apply(truth), all), s.tracks().apply(tracks));
          boolean right =
              r.cause().isPresent()
                  && codes(r.cause().get()).equals(Set.of(s.code()))
                  && fits(s, r.cause().get().causes().get(0).value());
          if (!right) {
            wrong.add(move + " " + s.code() + " " + s.value() + ": " + words(r));
          }
        }
      }
    }
    System.out.println("single mix-ups: " + (all - wrong.size()) + " of " + all + wrong);
    assertThat(wrong).as(all + " mix-ups").hasSizeLessThanOrEqualTo(all / 100);
  }

  /** Exact where the value is a word or a number of frames, else within half a percent. */
  private static boolean fits(SpoiledFiles.Spoil s, String found) {
    if (s.value().isEmpty()) {
      return true;
    }
    switch (s.code()) {
      case "focal-length", "pixel-aspect", "unit-scale", "picture-scale" -> {
        return Math.abs(Double.parseDouble(found) / Double.parseDouble(s.value()) - 1) < 0.005;
      }
      case "distorted-plate" -> {
        return Math.abs(Double.parseDouble(found) - Double.parseDouble(s.value())) < 0.002;
      }
      default -> {
        return found.startsWith(s.value());
      }
    }
  }

  @Test
  void bothMixUpsOfAPairAreFound() {
    Random r = new Random(4);
    int all = 0;
    List<String> wrong = new ArrayList<>();
    while (all < 16 * ROUNDS) {
      SpoiledFiles.Move move = List.of(SpoiledFiles.Move.values()).get(r.nextInt(3));
      long seed = 100L + r.nextInt(100_000);
      List<SpoiledFiles.Spoil> kinds = new ArrayList<>(SpoiledFiles.all(move, seed).values());
      kinds.removeIf(k -> Set.of("frozen-frame", "bad-range", "missing-parent").contains(k.code()));
      SpoiledFiles.Spoil a = kinds.get(r.nextInt(kinds.size()));
      SpoiledFiles.Spoil b = kinds.get(r.nextInt(kinds.size()));
      boolean angles =
          ANGLES.contains(a.code())
              && ANGLES.contains(b.code())
              && !(a.value() + b.value()).contains("position");
      if (a.code().equals(b.code()) || angles || ONE.contains(Set.of(a.code(), b.code()))) {
        continue;
      }
      // The true path is sampled at other times, which must not take the other mix-up back.
      boolean turned = b.code().startsWith("frame") || b.code().startsWith("rate");
      SpoiledFiles.Spoil first = turned ? b : a;
      SpoiledFiles.Spoil second = turned ? a : b;
      all++;
      Shot truth = SpoiledFiles.truth(move, FRAMES, POINTS, seed);
      Observations tracks = SpoiledFiles.tracks(truth, seed);
      SuspectReport found =
          search(
              file(second.file().apply(first.file().apply(truth)), all),
              second.tracks().apply(first.tracks().apply(tracks)));
      boolean right =
          found.cause().isPresent()
              && codes(found.cause().get()).equals(Set.of(a.code(), b.code()));
      if (!right) {
        wrong.add(move + " " + first.code() + "+" + second.code() + ": " + words(found));
      }
    }
    System.out.println("pairs: " + (all - wrong.size()) + " of " + all + wrong);
    assertThat(wrong).as(all + " pairs").hasSizeLessThanOrEqualTo(all / 20);
  }

  /** Angles that were copied in another order, and with a sign or in a unit that is wrong too. */
  @Test
  void twoMixUpsOfTheSameAnglesAreFound() {
    List<String> wrong = new ArrayList<>();
    int all = 0;
    for (SpoiledFiles.Move move : SpoiledFiles.Move.values()) {
      for (int k = 0; k < 3 * ROUNDS; k++) {
        long seed = 500L + k;
        boolean turned = k % 3 != 1;
        boolean degrees = k % 3 != 0;
        Set<String> causes = new java.util.HashSet<>();
        causes.add(turned ? "rotation-order" : "channel-sign");
        causes.add(degrees ? "degrees-radians" : "channel-sign");
        Shot truth = SpoiledFiles.truth(move, FRAMES, POINTS, seed);
        Shot spoiled =
            SpoiledFiles.angles(
                truth, turned ? "XYZ" : "ZXY", degrees ? Math.PI / 180 : 1, k % 3 != 2);
        SuspectReport r = search(file(spoiled, all++), SpoiledFiles.tracks(truth, seed));
        boolean right = r.cause().isPresent() && codes(r.cause().get()).equals(causes);
        if (!right) {
          wrong.add(move + " " + causes + ": " + words(r));
        }
      }
    }
    System.out.println("pairs of the same angles: " + (all - wrong.size()) + " of " + all + wrong);
    assertThat(wrong).as(all + " pairs").hasSizeLessThanOrEqualTo(all / 20);
  }

  @Test
  void anInnocentFileIsNotAccused() {
    List<String> accused = new ArrayList<>();
    int all = 0;
    for (int seed = 1; seed <= 20 * ROUNDS; seed++) {
      for (SpoiledFiles.Move move : SpoiledFiles.Move.values()) {
        Shot truth = SpoiledFiles.truth(move, 40 + seed % 60, 20 + 7 * (seed % 20), seed);
        SuspectReport r = search(file(truth, all++), SpoiledFiles.tracks(truth, seed));
        r.cause().ifPresent(c -> accused.add(move + " " + c.sentence()));
        assertThat(r.errorPx()).isLessThan(0.6);
      }
    }
    System.out.println("innocent files: " + all + ", accused " + accused);
    assertThat(accused).hasSizeLessThanOrEqualTo(all / 500);
  }

  /** What the file can be mended of measures as the truth does, written and read again. */
  @Test
  void aMendedFileHolds() {
    SpoiledFiles.Move move = SpoiledFiles.Move.FREE;
    Shot truth = SpoiledFiles.truth(move, FRAMES, POINTS, 11);
    Observations tracks = SpoiledFiles.tracks(truth, 11);
    double best = search(file(truth, 0), tracks).errorPx();
    int mended = 0;
    List<String> refused = new ArrayList<>();
    for (Map.Entry<String, SpoiledFiles.Spoil> e : SpoiledFiles.all(move, 11).entrySet()) {
      SpoiledFiles.Spoil s = e.getValue();
      Shot spoiled = file(s.file().apply(truth), mended);
      Observations seen = s.tracks().apply(tracks);
      Suspect cause = search(spoiled, seen).cause().orElseThrow();
      Shot whole;
      try {
        whole = Mending.of(spoiled, cause);
      } catch (InputError x) {
        refused.add(s.code());
        continue;
      }
      Shot again = file(whole, 0);
      assertThat(search(again, seen).errorPx()).as(s.code()).isCloseTo(best, within(0.1));
      mended++;
    }
    assertThat(mended).isGreaterThan(14);
    assertThat(refused)
        .containsExactlyInAnyOrder(
            "y-flip", "picture-scale", "distorted-plate", "frozen-frame", "bad-range");
  }

  /** Without points of its own, a camera is measured on points triangulated under each reading. */
  @Test
  void aCameraAloneIsMeasuredToo() {
    Shot truth = SpoiledFiles.truth(SpoiledFiles.Move.FREE, FRAMES, POINTS, 3);
    Observations tracks = SpoiledFiles.tracks(truth, 3);
    Map<String, SpoiledFiles.Spoil> all = SpoiledFiles.all(SpoiledFiles.Move.FREE, 3);
    for (String code :
        List.of("frame-shift", "camera-axes", "rotation-order", "degrees-radians", "y-flip")) {
      SpoiledFiles.Spoil s = all.get(code);
      Shot alone = s.file().apply(truth).withTrackers(List.of());
      SuspectReport r = search(alone, s.tracks().apply(tracks));
      assertThat(r.notes()).singleElement().asString().contains("only the camera");
      assertThat(r.cause()).as(code + " " + words(r)).isPresent();
      assertThat(codes(r.cause().get())).as(words(r)).containsExactly(code);
    }
  }

  /** A picture without lens shift cannot tell y counted upwards from a mirrored camera. */
  @Test
  void whatCannotBeToldApartIsNamedTogether() {
    Shot shifted = SpoiledFiles.truth(SpoiledFiles.Move.FREE, FRAMES, POINTS, 5);
    Shot truth =
        shifted.withCameras(
            shifted.cameras().stream()
                .map(c -> c.withOptics(c.optics().map(o -> o.withPrincipal(0, 0))))
                .toList());
    Observations tracks = SpoiledFiles.tracks(truth, 5);
    SpoiledFiles.Spoil s = SpoiledFiles.all(SpoiledFiles.Move.FREE, 5).get("y-flip");
    Suspect cause = search(truth, s.tracks().apply(tracks)).cause().orElseThrow();
    assertThat(codes(cause)).containsExactly("y-flip");
    Suspect.Cause mirrored = new Suspect.Cause("handedness", "camera +X -Y +Z");
    assertThat(cause.alike()).containsExactly(List.of(mirrored));

    // The same beside another mix-up.
    Shot larger =
        truth.withTrackers(truth.trackers().stream().map(t -> t.map(p -> p.times(100))).toList());
    Suspect both = search(larger, s.tracks().apply(tracks)).cause().orElseThrow();
    assertThat(codes(both)).containsExactlyInAnyOrder("y-flip", "unit-scale");
    assertThat(both.alike())
        .anySatisfy(
            a -> {
              assertThat(a).hasSize(2).contains(mirrored);
              assertThat(a).anyMatch(c -> c.code().equals("unit-scale"));
            });
    assertThat(both.alikeWords()).contains("handedness camera +X -Y +Z").contains(" with ");

    // And beside two more: three together.
    Shot late = SpoiledFiles.all(SpoiledFiles.Move.FREE, 5).get("frame-shift").file().apply(larger);
    Suspect three = search(late, s.tracks().apply(tracks)).cause().orElseThrow();
    assertThat(codes(three)).containsExactlyInAnyOrder("y-flip", "unit-scale", "frame-shift");
    assertThat(three.alike())
        .anySatisfy(
            a -> {
              assertThat(a).hasSize(3).contains(mirrored);
              assertThat(a.stream().map(Suspect.Cause::code)).contains("unit-scale", "frame-shift");
            });
  }

  /** Levelled by halves: named as such where the level is known, else as a transform that lacks. */
  @Test
  void aLevelThatOnlyOneOfThemHasIsNamed() {
    Shot truth = SpoiledFiles.truth(SpoiledFiles.Move.FREE, 60, 80, 6);
    Observations tracks = SpoiledFiles.tracks(truth, 6);
    Similarity level =
        new Similarity(2.6, Rotation.about(new Vec3(0.2, 1, -0.1), 0.7), new Vec3(0.3, -0.9, 1));
    for (String which : List.of("points", "camera")) {
      Similarity wrong = which.equals("points") ? level.inverse() : level;
      Shot spoiled =
          truth.withTrackers(truth.trackers().stream().map(t -> t.map(wrong::apply)).toList());
      Suspect cause =
          SuspectSearch.of(
                  file(spoiled, 0),
                  tracks,
                  OptionalDouble.empty(),
                  Optional.of(level),
                  Progress.NONE)
              .cause()
              .orElseThrow();
      assertThat(cause.causes()).containsExactly(new Suspect.Cause("level", which));
      assertThat(codes(search(file(spoiled, 0), tracks).cause().orElseThrow()))
          .containsExactly("missing-parent");
    }
  }

  @Test
  void whatIsNotMeasuredIsSaid() {
    Shot truth = SpoiledFiles.truth(SpoiledFiles.Move.FREE, 30, 60, 1);
    Observations tracks = SpoiledFiles.tracks(truth, 1);
    PoseTrack way = truth.cameras().get(0).poses();
    TrackerSet cart =
        TrackerSet.of("cart", List.of("c1", "c2"), new double[6])
            .inGroup(Optional.of(Group.moving("cart", way)));
    List<TrackerSet> sets = new ArrayList<>(truth.trackers());
    sets.add(cart);
    Shot more =
        truth
            .withTrackers(sets)
            .withCameras(
                List.of(truth.cameras().get(0), truth.cameras().get(0).withName("witness")));
    assertThat(search(more, tracks).notes())
        .containsExactly(
            "Of 2 cameras only the first was measured: cam",
            "2 points that move by themselves were left out");
    assertThat(Mending.leftOut(more)).containsExactly("1 more camera", "2 moving points");
  }

  @Test
  void tooLittleToMeasureOnIsSaid() {
    Shot truth = SpoiledFiles.truth(SpoiledFiles.Move.FREE, 10, 5, 1);
    assertThatThrownBy(() -> search(truth, Observations.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("too few");
    assertThatThrownBy(() -> search(truth.withCameras(List.of()), Observations.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no camera");
  }

  /** A trusted solve is evidence like tracks: its own pixels, to the last digit. */
  @Test
  void aTrustedSolveIsEvidence() {
    Shot truth = SpoiledFiles.truth(SpoiledFiles.Move.DOLLY, 50, 60, 2);
    Observations seen = TrustedSolve.tracks(truth);
    assertThat(search(truth, seen).errorPx()).isLessThan(1e-6);
    TrackerSet set = truth.trackers().get(0);
    Shot other = truth.withTrackers(List.of(set.map(p -> p.times(100))));
    assertThat(codes(search(other, seen).cause().orElseThrow())).containsExactly("unit-scale");
  }
}
