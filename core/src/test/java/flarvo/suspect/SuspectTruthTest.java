package flarvo.suspect;

import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SuspectTruthTest {
  @TempDir private Path dir;

  @Test
  void pairs() {
    java.util.Random r = new java.util.Random(4);
    for (int k = 0; k < 110; k++) {
      SpoiledFiles.Move m = java.util.List.of(SpoiledFiles.Move.values()).get(r.nextInt(3));
      int seed = 100 + k;
      Shot truth = SpoiledFiles.truth(m, 100, 120, seed);
      Observations t = SpoiledFiles.tracks(truth, seed);
      java.util.List<SpoiledFiles.Spoil> all =
          new java.util.ArrayList<>(SpoiledFiles.all(m, seed).values());
      all.removeIf(
          x ->
              x.code().equals("frozen-frame")
                  || x.code().equals("bad-range")
                  || x.code().equals("missing-parent"));
      SpoiledFiles.Spoil a;
      SpoiledFiles.Spoil b;
      a = all.get(r.nextInt(all.size()));
      b = all.get(r.nextInt(all.size()));
      if (a.code().equals(b.code())
          || Set.of(a.code(), b.code()).equals(Set.of("world-axes", "handedness"))
          || Set.of(a.code(), b.code()).equals(Set.of("channel-sign", "degrees-radians"))
          || Set.of(a.code(), b.code()).equals(Set.of("rotation-order", "degrees-radians"))
          || Set.of(a.code(), b.code()).equals(Set.of("rotation-order", "channel-sign"))) continue;
      if (b.code().startsWith("frame") || b.code().startsWith("rate")) {
        var x = a;
        a = b;
        b = x;
      }
      if (a.code().startsWith("frame") && b.code().startsWith("rate")) continue;
      Shot file =
          SpoiledFiles.read(b.file().apply(a.file().apply(truth)), dir, "usd-text", "comp-yup");
      long t0 = System.nanoTime();
      SuspectReport rep =
          SuspectSearch.of(
              file, b.tracks().apply(a.tracks().apply(t)), OptionalDouble.empty(), Progress.NONE);
      double ms = (System.nanoTime() - t0) / 1e6;
      Suspect top = rep.suspects().get(0);
      java.util.Set<String> codes =
          top.causes().stream()
              .map(Suspect.Cause::code)
              .collect(java.util.stream.Collectors.toSet());
      boolean ok = top.confident() && codes.equals(java.util.Set.of(a.code(), b.code()));
      System.out.printf(
          "%s PAIR %s %s=%s %s=%s -> %.2f to %.2f %s %s %.0f ms%n",
          ok ? "  " : "XX",
          m,
          a.code(),
          a.value(),
          b.code(),
          b.value(),
          rep.errorPx(),
          top.errorPxAfter(),
          top.confident(),
          top.causes().stream().map(c -> c.code() + "=" + c.value()).toList(),
          ms);
    }
  }

  @Test
  void look() {
    for (SpoiledFiles.Move m : SpoiledFiles.Move.values()) {
      for (int seed = 1; seed <= 3; seed++) {
        Shot truth = SpoiledFiles.truth(m, 100, 120, seed);
        Observations t = SpoiledFiles.tracks(truth, seed);
        for (Map.Entry<String, SpoiledFiles.Spoil> e : SpoiledFiles.all(m, seed).entrySet()) {
          SpoiledFiles.Spoil s = e.getValue();
          Shot file = SpoiledFiles.read(s.file().apply(truth), dir, "usd-text", "comp-yup");
          long t0 = System.nanoTime();
          SuspectReport r =
              SuspectSearch.of(file, s.tracks().apply(t), OptionalDouble.empty(), Progress.NONE);
          double ms = (System.nanoTime() - t0) / 1e6;
          Suspect top = r.suspects().get(0);
          boolean ok =
              r.cause().isPresent()
                  && top.causes().size() == 1
                  && top.causes().get(0).code().equals(s.code());
          System.out.printf(
              "%s %-7s %-16s %-10s -> %.2f to %.2f %s %s %s alike %s %.0f ms%n",
              ok ? "  " : "XX",
              m,
              s.code(),
              s.value(),
              r.errorPx(),
              top.errorPxAfter(),
              top.confident(),
              top.causes().stream().map(c -> c.code() + "=" + c.value()).toList(),
              ok ? "" : top.sentence(),
              top.alike().stream().map(c -> c.code() + "=" + c.value()).toList(),
              ms);
        }
      }
    }
  }
}
