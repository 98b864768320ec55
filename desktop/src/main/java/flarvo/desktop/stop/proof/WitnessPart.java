package flarvo.desktop.stop.proof;

import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.desktop.work.Lane;
import flarvo.plate.remap.SequenceName;
import flarvo.render.Previews;
import flarvo.render.RenderJob;
import flarvo.render.RenderScene;
import flarvo.render.ShotRender;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateRole;
import flarvo.work.Progress;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;

/** Pictures of what was built on the shot over its plates, for sign-off, and passes. */
public final class WitnessPart extends VBox {

  /** Frames at once; a window is used beside it. */
  private static final int JOBS = 2;

  private final Session session;
  private final WitnessPreview preview;
  private final CheckBox passes =
      box("render-passes", "Passes", "Multichannel OpenEXR beside them");
  private final CheckBox keyed =
      box("render-keyed", "Keyed plates in front", "Laid over the picture by their alpha");
  private final CheckBox movie = box("render-movie", "Movie", "A small MP4 of them");
  private final CheckBox mail = box("render-mail", "GIF", "An animated picture of them, for mail");

  WitnessPart(Session session, WitnessPreview preview) {
    super(6);
    setId("witness");
    this.session = session;
    this.preview = preview;
    movie.setSelected(true);
    Button render = new Button("Render…");
    render.setId("render");
    render.getStyleClass().add("small-button");
    Tips.on(render, "Gauges, stand-ins, meshes and trackers over the plates, as numbered pictures");
    render.setOnAction(e -> choose());
    render.disableProperty().bind(session.open().not());
    ToggleButton show = new ToggleButton("Preview");
    show.setId("witness-preview");
    show.getStyleClass().add("small-button");
    Tips.on(show, "The current frame as it would be rendered, in the picture");
    show.selectedProperty().bindBidirectional(preview.on());
    show.disableProperty().bind(session.open().not());
    Label empty = Desk.wrapped();
    getChildren()
        .addAll(
            Desk.heading("Witness pictures"),
            new LightRow(session),
            keyed,
            new HBox(12, passes, movie, mail),
            empty,
            new HBox(8, show, render));
    empty.setText("Trackers alone. Add gauges or stand-ins in Level to see whether they stick.");
    empty.managedProperty().bind(empty.visibleProperty());
    keyed.managedProperty().bind(keyed.visibleProperty());
    preview.keyed().bind(keyed.selectedProperty());
    session.state().addListener((o, a, b) -> fill(b, empty));
    fill(session.state().get(), empty);
  }

  /** The current frame as it would be rendered. */
  public WitnessPreview preview() {
    return preview;
  }

  private void fill(ShotState s, Label empty) {
    empty.setVisible(isBare(s));
    boolean has = session.isOpen() && s.shot().plate(PlateRole.KEYED).isPresent();
    keyed.setVisible(has);
    if (!has) {
      keyed.setSelected(false);
    }
  }

  private static boolean isBare(ShotState s) {
    return s.staging().gauges().isEmpty()
        && s.staging().standIns().isEmpty()
        && s.shot().meshes().isEmpty();
  }

  private static CheckBox box(String id, String text, String tip) {
    CheckBox b = new CheckBox(text);
    b.setId(id);
    Tips.on(b, tip);
    return b;
  }

  void choose() {
    DirectoryChooser c = new DirectoryChooser();
    c.setTitle("Folder for the pictures");
    File to = c.showDialog(getScene().getWindow());
    if (to != null) {
      render(to.toPath());
    }
  }

  /**
   * Renders the frames between in and out into a folder of the shot's name in another; pictures of
   * before are kept.
   */
  public void render(Path into) {
    ShotState s = session.state().get();
    FrameRange frames = session.playhead().inOut().get();
    boolean withKeyed = keyed.isSelected();
    boolean withPasses = passes.isSelected();
    boolean withMovie = movie.isSelected();
    boolean withMail = mail.isSelected();
    session
        .jobs()
        .run(
            Lane.SEND,
            "Rendering " + s.name(),
            p -> {
              Path out = free(into, s.name());
              RenderJob job =
                  job(
                      s,
                      withKeyed,
                      Optional.of(ShotRender.witness(out, s.name())),
                      withPasses
                          ? Optional.of(ShotRender.passes(out, s.name()))
                          : Optional.empty());
              return rendered(s, job, frames, out, withMovie, withMail, p);
            },
            said -> session.message().set(said),
            why -> session.message().set(why));
  }

  /** What is rendered of a shot, with nothing written yet. */
  static RenderJob job(ShotState s, boolean keyed) {
    return job(s, keyed, Optional.empty(), Optional.empty());
  }

  private static RenderJob job(
      ShotState s, boolean keyed, Optional<SequenceName> witness, Optional<SequenceName> passes) {
    RenderScene scene = RenderScene.of(s.shot(), s.staging());
    return new RenderJob(
        scene,
        scene.look(),
        ShotRender.plates(s.shot(), s.lens().track().isPresent()),
        keyed ? Optional.of(ShotRender.keyed(s.shot())) : Optional.empty(),
        true,
        0,
        witness,
        passes);
  }

  /** The folder of that name, or the next number that is free. */
  private static Path free(Path into, String shot) {
    Path out = into.resolve(shot + "_witness");
    for (int i = 2; Files.exists(out); i++) {
      out = into.resolve(shot + "_witness_" + i);
    }
    return out;
  }

  private static String rendered(
      ShotState s,
      RenderJob job,
      FrameRange frames,
      Path out,
      boolean movie,
      boolean mail,
      Progress p) {
    RenderJob.Outcome o = job.run(frames, JOBS, p.part(0, movie || mail ? 2 : 1));
    List<Path> pictures = ShotRender.pictures(job, o);
    if (movie && !pictures.isEmpty()) {
      Previews.movie(pictures, s.shot().rate(), out.resolve(s.name() + ".mp4"), p.part(1, 2));
    }
    if (mail && !pictures.isEmpty()) {
      Previews.animation(pictures, s.shot().rate(), out.resolve(s.name() + ".gif"), p.part(1, 2));
    }
    String failed =
        o.failed().isEmpty()
            ? ""
            : "; not frame "
                + o.failed().firstKey()
                + (o.failed().size() == 1 ? "" : " and " + (o.failed().size() - 1) + " more")
                + ": "
                + o.failed().firstEntry().getValue();
    String ground = job.scene().isLevelled() ? "" : "; not levelled, so shadows may be anywhere";
    return "Rendered " + o.made().size() + " frames into " + out.getFileName() + ground + failed;
  }
}
