package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Notes as people write them: every fact is found, and nothing is found that is not there. */
class ShotLogTest {

  private static final int LOGS = 200;

  private static final String[] RATES = {
    "fps 29.97",
    "FPS: 29.97",
    "rate = 29,97",
    "29.97 fps",
    "29.97p",
    "Frame rate: 29.97",
    "30000/1001 fps",
    "29,97 frames per second",
    "timebase = 29.97",
    "fps=29.97",
    "The rate is 29.97",
    "framerate 29.97",
    "shot at 29.97fps",
    "29.97 frames/sec"
  };
  private static final String[] SIZES = {
    "size 1920 x 1080",
    "1080p",
    "Resolution: 1920x1080",
    "1920×1080 px",
    "1920 by 1080",
    "width 1920, height 1080",
    "plate = 1920*1080",
    "1,920 x 1,080",
    "w=1920 h=1080"
  };
  private static final String[] BACKS = {
    "sensor 24.576 x 13.824 mm",
    "Film back: 24.576x13.824",
    "sensor = 24,576 mm x 13,824 mm",
    "filmback 24.576mm by 13.824mm",
    "Sensor size: 24.576 × 13.824 mm"
  };
  private static final String[] LENSES = {
    "lens 28mm",
    "focal length: 28",
    "28 mm lens",
    "Focal = 28.0 mm",
    "lens: 28 mm prime",
    "fl 28mm",
    "lens is 28mm"
  };
  private static final String[] RANGES = {
    "frames 1001-1048",
    "Frame range: 1001 to 1048",
    "range = 1001..1048",
    "frames: 1001 – 1048",
    "first frame 1001, last frame 1048",
    "start 1001 / end 1048",
    "in: 1001 out: 1048"
  };
  private static final String[] UPS = {
    "world: z up", "Z-up", "up axis: Z", "zup", "up = z", "the scene is Z up"
  };
  private static final String[] UNITS = {
    "units: cm", "scene unit = cm", "unit cm", "units are in centimetres", "Units = centimeters"
  };
  private static final String[] WORDS = {
    "roto cleaned by hand on 12 frames",
    "please check the left edge",
    "bit rate 120",
    "solve 0.43 px",
    "3 cameras on set, this is B",
    "take 4",
    "shutter 180",
    "ISO 800, T2.8",
    "v003 delivered 2026-03-14",
    "moved 2.5 m to the left"
  };

  @TempDir private Path dir;

  private List<Claim<?>> claims(String text) throws IOException {
    return ShotLog.read(Files.writeString(dir.resolve("notes.txt"), text)).claims();
  }

  private static String pick(String[] from, Random r) {
    return from[r.nextInt(from.length)];
  }

  @Test
  void everyFactIsFoundInWhateverWords() throws IOException {
    for (int seed = 0; seed < LOGS; seed++) {
      Random r = new Random(new SplittableRandom(seed).nextLong());
      List<String> lines = new ArrayList<>();
      for (String[] family : List.of(RATES, SIZES, BACKS, LENSES, RANGES, UPS, UNITS)) {
        lines.add(pick(family, r));
      }
      for (int i = 0; i < 3; i++) {
        lines.add(pick(WORDS, r));
      }
      Collections.shuffle(lines, r);
      String text = String.join(r.nextBoolean() ? "\n" : "\r\n", lines) + "\n";
      List<Claim<?>> all = claims(text);
      String as = "seed " + seed + ":\n" + text;
      only(all, Fact.RATE, "30000/1001", as);
      only(all, Fact.PICTURE_SIZE, "1920x1080", as);
      only(all, Fact.FIRST_FRAME, "1001", as);
      only(all, Fact.LAST_FRAME, "1048", as);
      only(all, Fact.UP_AXIS, "+Z", as);
      only(all, Fact.UNIT, "cm", as);
      only(all, Fact.FILM_BACK, "24.576", as);
      only(all, Fact.FOCAL_LENGTH, "28", as);
    }
  }

  private static void only(List<Claim<?>> all, Fact<?> fact, String value, String as) {
    List<String> found = new ArrayList<>();
    Claim.about(fact, all).forEach(c -> found.add(c.value().toString()));
    assertThat(found).as(fact.id() + " of " + as).hasSize(1);
    assertThat(found.get(0)).as(fact.id() + " of " + as).contains(value);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "24p | 24",
        "rate = 23,976 | 24000/1001",
        "23.98 fps | 24000/1001",
        "FPS: 30 | 30",
        "25 frames a second | 25",
        "59.94p | 60000/1001",
        "plates are 1080p at 25 fps | 25"
      })
  void rates(String line, String rate) throws IOException {
    only(claims(line + "\n"), Fact.RATE, rate, line);
  }

  @Test
  void inchesAreTurnedIntoMillimetres() throws IOException {
    List<Claim<?>> all = claims("aperture 1.0 x 0.5 in\npixel aspect ratio: 2\n");
    only(all, Fact.FILM_BACK, "25.4", "inches");
    only(all, Fact.PIXEL_ASPECT, "2.0", "aspect");
  }

  /** Nothing of this is a fact about the shot. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "bit rate 120",
        "data rate: 400",
        "zoom lens 24-70mm",
        "2.5 m to the left",
        "sensor 1920 x 1080",
        "rate 0",
        "version 24",
        "12 frames were cut"
      })
  void whatOnlyLooksLikeAFact(String line) throws IOException {
    List<Claim<?>> all = claims(line + "\n");
    for (Fact<?> f :
        List.of(Fact.RATE, Fact.FOCAL_LENGTH, Fact.FILM_BACK, Fact.FIRST_FRAME, Fact.UNIT)) {
      assertThat(Claim.about(f, all)).as(f.id()).isEmpty();
    }
  }
}
