package flarvo.folder;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.folder.ShotFinder.Found;
import flarvo.receive.Fact;
import flarvo.receive.IntakeOptions;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.report.Note;
import flarvo.shotlist.ShotList;
import flarvo.work.Progress;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ShotFinderTest {

  @TempDir private Path dir;

  private void camera(String path) throws IOException {
    text(path, "frame,tx,ty,tz,rx,ry,rz,focal\n1001,0,0,0,0,0,0,35\n1002,1,0,0,0,0,0,35\n");
  }

  private void text(String path, String text) throws IOException {
    Path p = dir.resolve(path);
    Files.createDirectories(p.getParent());
    Files.writeString(p, text);
  }

  private void plates(String pattern, int first, int last) throws IOException {
    for (int f = first; f <= last; f++) {
      Path p = dir.resolve(pattern.replace("#", Integer.toString(f)));
      Files.createDirectories(p.getParent());
      ImageIO.write(new BufferedImage(8, 4, BufferedImage.TYPE_INT_RGB), "png", p.toFile());
    }
  }

  private Found find(Optional<ShotList> list) {
    return ShotFinder.find(List.of(dir), list, Progress.NONE);
  }

  /** {@code shot: file file | folder}, files and folders in order. */
  private List<String> words(Found f) {
    return f.shots().stream()
        .map(
            s ->
                s.name()
                    + ":"
                    + s.files().stream()
                        .map(p -> " " + dir.relativize(p))
                        .collect(Collectors.joining())
                    + " |"
                    + s.plates().stream()
                        .map(p -> " " + dir.relativize(p))
                        .collect(Collectors.joining()))
        .toList();
  }

  @Test
  void aFolderForEachShot() throws IOException {
    camera("seq/roof/solve/cam.csv");
    plates("seq/roof/plates/undistorted/p.#.png", 1001, 1002);
    camera("seq/yard/whatever/deep/cam.csv");
    text("seq/yard/shot.txt", "frame rate 25");
    text("project.json", "{\"schema\": \"x\"}");
    text("seq/roof/out/old.csv", "frame,tx\n1,2");
    text("seq/roof/.hidden/cam.usda", "#usda 1.0\n");
    text("seq/yard/setup.py", "print('frame rate 24')");
    assertThat(words(find(Optional.empty())))
        .containsExactly(
            "roof: seq/roof/solve/cam.csv | seq/roof/plates/undistorted",
            "yard: seq/yard/shot.txt seq/yard/whatever/deep/cam.csv |");
    assertThat(find(Optional.empty()).notes())
        .extracting(Note::toString)
        .anyMatch(n -> n.contains("seq/roof/out"))
        .anyMatch(n -> n.contains("setup.py") && n.contains("project.json"));
  }

  @Test
  void oneShot() throws IOException {
    camera("solve/wall_cam.csv");
    camera("tracks/floor.csv");
    plates("plates/p.#.png", 1, 2);
    assertThat(words(find(Optional.empty())))
        .containsExactly(dir.getFileName() + ": solve/wall_cam.csv tracks/floor.csv | plates");
  }

  @Test
  void foldersOfPartsWithNumberedShots() throws IOException {
    camera("solve/mer_010_roof_cam_v002.csv");
    camera("solve/mer_010_roof_cam_v010.csv");
    camera("solve/mer_020_yard_cam.csv");
    camera("solve/other.csv");
    plates("plates/mer_010_roof/p.#.png", 1, 2);
    plates("plates/mer_020_yard_v001/p.#.png", 1, 2);
    Found f = find(Optional.empty());
    assertThat(words(f))
        .containsExactly(
            "mer_010_roof: solve/mer_010_roof_cam_v010.csv | plates/mer_010_roof",
            "mer_020_yard: solve/mer_020_yard_cam.csv | plates/mer_020_yard_v001");
    assertThat(f.shots().get(0).notes())
        .extracting(Note::toString)
        .singleElement()
        .asString()
        .contains("v002")
        .contains("newer version");
    assertThat(f.notes()).extracting(Note::toString).anyMatch(n -> n.contains("other.csv"));
  }

  @Test
  void aListNamesTheShotsAndSpeaksInTheLedger() throws IOException {
    camera("a/roof_cam.csv");
    camera("a/roof_b_cam.csv");
    camera("a/roofs.csv");
    plates("scans/ROOF/p.#.png", 1001, 1002);
    text("list.csv", "shot,first,last,handles\nroof,1002,1003,2\nroof_b,1,9,\ngone,1,9,");
    Found f = find(Optional.of(ShotList.read(dir.resolve("list.csv"))));
    assertThat(words(f))
        .containsExactly("roof: a/roof_cam.csv | scans/ROOF", "roof_b: a/roof_b_cam.csv |");
    assertThat(f.notes())
        .extracting(Note::toString)
        .anyMatch(n -> n.contains("gone") && n.contains("no file found"))
        .anyMatch(n -> n.contains("roofs.csv"));
    ReceivedSet set = f.shots().get(0).received(IntakeOptions.NONE, Progress.NONE);
    assertThat(LedgerMaker.of(set, Rulings.NONE).of(Fact.FIRST_FRAME, "list.csv"))
        .singleElement()
        .satisfies(
            c -> {
              assertThat(c.value()).isEqualTo(Optional.of(1000));
              assertThat(c.place()).isEqualTo("line 2, cut 1002-1003 with handles of 2");
            });
    // The plates lack a frame at the head and three at the tail.
    assertThat(set.notes())
        .extracting(Note::toString)
        .anyMatch(n -> n.contains("1 missing at the head, 3 missing at the tail"));
  }

  @Test
  void foldersOfANewShotAreItsOwnLog() throws IOException {
    text("list.csv", "shot,first,last,handles,rate\nroof,1009,1088,8,24000/1001\nyard,,,,");
    ShotList list = ShotList.read(dir.resolve("list.csv"));
    Path show = dir.resolve("show");
    assertThat(ShotTemplate.USUAL.make(show, list.of("roof").orElseThrow()))
        .contains("roof/plates/undistorted", "roof/notes/roof.txt");
    assertThat(ShotTemplate.USUAL.make(show, list.of("roof").orElseThrow())).isEmpty();
    ShotTemplate.USUAL.make(show, list.of("yard").orElseThrow());
    assertThat(show.resolve("yard/notes/yard.txt")).hasContent("yard\n");
    Found f = ShotFinder.find(List.of(show), Optional.empty(), Progress.NONE);
    assertThat(f.shots()).extracting(FoundShot::name).containsExactly("roof");
    ReceivedSet set = f.shots().get(0).received(IntakeOptions.NONE, Progress.NONE);
    var ledger = LedgerMaker.of(set, Rulings.NONE);
    assertThat(ledger.of(Fact.FIRST_FRAME, "roof.txt").get(0).value()).isEqualTo(Optional.of(1001));
    assertThat(ledger.of(Fact.RATE, "roof.txt").get(0).text()).isEqualTo("24000/1001");
    assertThat(ledger.of(Fact.FRAME_COUNT, "roof.txt").get(0).text()).isEqualTo("96");
  }

  @Test
  void aTemplateOfOnesOwn() throws IOException {
    text("mine/{shot}_plates/keep.txt", "{shot} from {first}\nat {rate}\nend");
    Files.createDirectories(dir.resolve("mine/empty"));
    ShotTemplate t = ShotTemplate.of(dir.resolve("mine"));
    text("list.csv", "shot,first,last\nroof,1,9");
    t.make(dir.resolve("new"), ShotList.read(dir.resolve("list.csv")).shots().get(0));
    assertThat(dir.resolve("new/roof/empty")).isDirectory();
    assertThat(dir.resolve("new/roof/roof_plates/keep.txt")).hasContent("roof from 1\nend");
  }
}
