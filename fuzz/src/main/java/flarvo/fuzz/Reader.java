package flarvo.fuzz;

import flarvo.convention.AngleUnit;
import flarvo.convention.DialectJson;
import flarvo.convention.Dialects;
import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.decision.Replay;
import flarvo.decision.ShotState;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.format.TextSource;
import flarvo.format.table.TableAdvice;
import flarvo.lens.LensMapper;
import flarvo.lens.LensSheet;
import flarvo.lens.fit.LinesTable;
import flarvo.motion.Parent;
import flarvo.motion.Retime;
import flarvo.motion.Stand;
import flarvo.plate.MovieUnpacker;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateReader;
import flarvo.plate.look.CubeTable;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.receive.IntakeOptions;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.receive.ShotLog;
import flarvo.recipe.Recipe;
import flarvo.recipe.RecipeJson;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.shotlist.ShotList;
import flarvo.trace.Mask;
import flarvo.trace.MaskJson;
import flarvo.trace.MaskShape;
import flarvo.work.Progress;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * A reader under test.
 *
 * @param name also the folder of its corpus
 * @param extension of the file that it is given, with the dot
 * @param read reads a file; an {@link InputError} is a good answer
 */
record Reader(String name, String extension, Consumer<Path> read) {

  private static final IntakeOptions SAID =
      IntakeOptions.NONE
          .withSize(PictureSize.of(1920, 1080))
          .withRate(Rate.FPS_24)
          .withFilmBack(new FilmBack(24.576, 13.824));

  private static final TableAdvice ADVICE =
      new TableAdvice(
          List.of(),
          Optional.empty(),
          Optional.of(RotationOrder.XYZ),
          Optional.of(AngleUnit.DEGREES),
          Optional.empty(),
          Optional.of(LinearUnit.METRE),
          Optional.empty(),
          Optional.of(Rate.FPS_24));

  private static final Dialects DIALECTS = Dialects.shipped();

  /** All there are: every scene format, and every other file that a user can hand over. */
  static List<Reader> all() {
    List<Reader> out = new ArrayList<>();
    for (SceneFormat f : Formats.all()) {
      boolean table = f.id().equals("table");
      out.add(new Reader(f.id(), f.extensions().get(0), table ? Reader::table : Reader::receive));
    }
    out.add(new Reader("log", ".txt", ShotLog::read));
    out.add(new Reader("shotlist", ".csv", Reader::shotList));
    out.add(new Reader("lens", ".json", Reader::lens));
    out.add(new Reader("project", ".json", Reader::project));
    out.add(new Reader("recipe", ".json", Reader::recipe));
    out.add(new Reader("dialect", ".json", Reader::dialect));
    out.add(new Reader("mask", ".json", Reader::mask));
    out.add(new Reader("retime", ".csv", Reader::retime));
    out.add(new Reader("motion", ".txt", Reader::motion));
    out.add(new Reader("picture", ".png", PlateReader::read));
    out.add(new Reader("exr", ".1001.exr", PlateFinder::find));
    out.add(new Reader("cube", ".cube", CubeTable::read));
    out.add(new Reader("lines", ".csv", LinesTable::read));
    return out;
  }

  /** Those whose pixels are unpacked by libraries in a process of their own: tens a second. */
  static List<Reader> decoded() {
    return List.of(
        new Reader("exr-pixels", ".exr", PlateReader::read),
        new Reader("movie", ".avi", Reader::movie));
  }

  /** By its name. */
  static Reader of(String name) {
    return Stream.of(all(), decoded(), List.of(MixedReader.reader()))
        .flatMap(List::stream)
        .filter(r -> r.name.equals(name))
        .findFirst()
        .orElseThrow(
            () ->
                InputError.words(
                    "there is no reader '" + name + "'",
                    "Known are: "
                        + String.join(
                            ", ",
                            Stream.concat(all().stream(), decoded().stream())
                                .map(Reader::name)
                                .toList())));
  }

  /** Takes a file in as Receive does, weighs it, and puts a shot together from it. */
  private static void receive(Path file) {
    weigh(new ShotIntake().add(file, SAID, Progress.NONE).received(SAID));
  }

  /** With everything said that a table may leave open, then as the window takes it. */
  private static void table(Path file) {
    try {
      weigh(new ShotIntake(ADVICE).add(file, SAID, Progress.NONE).received(SAID));
    } finally {
      receive(file);
    }
  }

  private static void weigh(ReceivedSet set) {
    LedgerMaker.of(set, Rulings.NONE);
    set.shot("fuzz", Rulings.NONE);
  }

  private static void movie(Path file) {
    Path folder = file.resolveSibling("frames");
    File[] earlier = folder.toFile().listFiles();
    for (File f : earlier == null ? new File[0] : earlier) {
      if (!f.delete()) {
        throw new IllegalStateException("left lying: " + f);
      }
    }
    MovieUnpacker.into(file, folder, "m.", 4, 1, Progress.NONE);
  }

  private static void lens(Path file) {
    LensMapper m = LensSheet.read(file).track().at(1001).on(PictureSize.of(1920, 1080));
    double[] out = new double[2];
    for (int x = 0; x <= 1920; x += 480) {
      m.toOriginal(x, 100, out);
      m.toUndistorted(x, 100, out);
    }
  }

  private static void project(Path file) {
    ProjectFile project = ProjectFile.read(file);
    ProjectLoader loader = new ProjectLoader(project, DIALECTS);
    for (ProjectShot s : project.shots()) {
      loader.open(s, Progress.NONE);
    }
  }

  /** What is read is written and read again, and made on a shot that came from no files. */
  private static void recipe(Path file) {
    Recipe r = RecipeJson.read(file);
    RecipeJson.text(r);
    Replay.of(ShotState.NONE, r.decisions(), Progress.NONE).lines();
  }

  /** What is read is a source of a ledger. */
  private static void shotList(Path file) {
    ShotList list = ShotList.read(file);
    list.shots().forEach(s -> ShotLog.listed(file, s).claims());
  }

  private static void mask(Path file) {
    String text = TextSource.read(file, ReadLimits.USUAL);
    Mask m = MaskShape.all(MaskJson.parse(file.toString(), text));
    Objects.requireNonNull(IntStream.range(1000, 1012).mapToObj(f -> m.covers(f, 99, 99)).toList());
  }

  /** What is read is made on a shot of its frames. */
  private static void retime(Path file) {
    Retime r = Retime.parse(file.toString(), TextSource.read(file, ReadLimits.USUAL));
    Objects.requireNonNull(r.frames());
  }

  /** Each line as a stand and as a parent; one that is neither does not keep the next from it. */
  private static void motion(Path file) {
    for (String line : TextSource.read(file, ReadLimits.USUAL).split("\\R")) {
      try {
        Objects.requireNonNull(Stand.parse(line).text());
        Objects.requireNonNull(Parent.parse(line).text());
      } catch (InputError e) {
        // A good answer.
      }
    }
  }

  private static void dialect(Path file) {
    DialectJson.read(TextSource.read(file, ReadLimits.USUAL), file.toString());
  }
}
