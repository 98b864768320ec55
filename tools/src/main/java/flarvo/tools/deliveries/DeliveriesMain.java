package flarvo.tools.deliveries;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import flarvo.report.InputError;
import flarvo.work.Progress;
import flarvo.work.TempFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * Writes every shot of a project in every format and dialect, with its parts alone and together,
 * proves each from its file, and says in a table what came out. Ends with 1 where one does not
 * hold.
 */
public final class DeliveriesMain {

  /** Formats whose places are doubles, and the drift that they should stay under. */
  private static final Set<String> DOUBLES =
      Set.of("usd-text", "usd-crate", "usd-package", "scene-json", "table", "alembic");

  private static final double DOUBLES_PX = 1e-4;
  private static final double FLOATS_PX = 5e-3;

  private static final List<Contents> PARTS =
      List.of(
          Contents.CAMERA,
          Contents.TRACKERS,
          Contents.CAMERA_AND_TRACKERS,
          Contents.of(Part.GEOMETRY),
          Contents.of(Part.GAUGES),
          Contents.of(Part.CARD),
          Contents.WITH_GEOMETRY,
          Contents.WITH_GEOMETRY.with(Part.GAUGES, true).with(Part.CARD, true));

  /** Parts that are meshes. */
  private static final List<Part> MESHES = List.of(Part.GEOMETRY, Part.GAUGES, Part.CARD);

  private final List<String> failed = new ArrayList<>();

  private DeliveriesMain() {}

  /**
   * Takes a project file and the page to write.
   *
   * @throws IOException when the page cannot be written
   */
  public static void main(String[] args) throws IOException {
    System.exit(new DeliveriesMain().run(Path.of(args[0]), Path.of(args[1])));
  }

  private int run(Path project, Path page) throws IOException {
    ProjectFile p = ProjectFile.read(project);
    ProjectLoader loader = new ProjectLoader(p, Dialects.shipped());
    StringBuilder out = new StringBuilder(1 << 12);
    out.append(
        """
        # Every writer in every dialect

        Made by `./flarvo deliveries`: each shot of the demo, written in every format for every shipped dialect, with
        its parts alone and together, read back from disk as its recipient would and proven. Drift is the largest over
        all dialects and parts, in pixels of the plate. Formats that store doubles should stay under 0.0001 px, those
        that store 32-bit floats under 0.005 px. The shots of the demo have no geometry of their own: here each gets a
        card through three of its trackers and a gauge of each kind on others. Meshes and picture cards are compared
        in space and by their pictures, corner by corner on every frame; see [proof](proof.md).

        | format | files | hold | limit |""");
    List<ProjectShot> shots = p.shots();
    shots.forEach(s -> out.append(' ').append(s.name()).append(" |"));
    out.append("\n|---|---:|---:|---:|").append("---:|".repeat(shots.size())).append('\n');
    List<Outgoing> staged = new ArrayList<>();
    for (ProjectShot s : shots) {
      staged.add(BuiltShot.of(loader.open(s, Progress.NONE).present()).outgoing());
    }
    for (SceneFormat f : Formats.all()) {
      if (f.writes()) {
        row(out, f, staged);
      }
    }
    if (!failed.isEmpty()) {
      out.append("\n## What does not hold\n\n");
      failed.forEach(w -> out.append("- ").append(w).append('\n'));
    }
    Files.writeString(page, out.toString());
    System.out.print(out);
    return failed.isEmpty() ? 0 : 1;
  }

  private void row(StringBuilder out, SceneFormat f, List<Outgoing> shots) {
    double limit = DOUBLES.contains(f.id()) ? DOUBLES_PX : FLOATS_PX;
    int files = 0;
    int hold = 0;
    StringBuilder drifts = new StringBuilder();
    for (Outgoing s : shots) {
      double worst = 0;
      for (Dialect d : Dialects.shipped().all()) {
        for (Contents c : PARTS) {
          Optional<ProofReport> r = one(s, d, f, c);
          if (r.isEmpty()) {
            continue;
          }
          files++;
          double px = r.get().drift().map(x -> x.maxPx()).orElse(0.0);
          worst = Math.max(worst, px);
          if (r.get().holds() && !(px > limit)) {
            hold++;
          } else {
            failed.add(
                s.shot().name()
                    + ", "
                    + f.id()
                    + ", "
                    + d
                    + ", "
                    + c.parts()
                    + ": "
                    + r.get().sentence());
          }
        }
      }
      drifts.append(String.format(Locale.ROOT, " %.6f |", worst));
    }
    out.append(
        String.format(
            Locale.ROOT, "| %s | %d | %d | %s |%s%n", f.id(), files, hold, plain(limit), drifts));
  }

  private static String plain(double px) {
    return java.math.BigDecimal.valueOf(px).toPlainString() + " px";
  }

  /** Empty where the format, or the shot, has nothing of what is wanted. */
  private Optional<ProofReport> one(Outgoing from, Dialect d, SceneFormat f, Contents c) {
    if (MESHES.stream().anyMatch(c::has) && f.cannotCarry().contains(SceneFormat.MESHES)) {
      return Optional.empty();
    }
    try (TempFolder folder = TempFolder.make("deliveries")) {
      Path file = folder.path().resolve("d" + f.extensions().get(0));
      Delivery delivery = new Delivery(d.name(), d, f, c, file.getFileName().toString());
      return Optional.of(
          Handover.send(from, delivery, file, ProofReport.USUAL_LIMIT_PX, List.of(), Progress.NONE)
              .proof());
    } catch (InputError e) {
      failed.add(
          from.shot().name() + ", " + f.id() + ", " + d + ", " + c.parts() + ": " + e.getMessage());
      return Optional.empty();
    }
  }
}
