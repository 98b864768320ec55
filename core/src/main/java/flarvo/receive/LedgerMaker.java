package flarvo.receive;

import flarvo.convention.FilmBack;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/**
 * Weighs claims: finds what contradicts, explains it, and proposes. Where 2D tracks are at hand, or
 * features of the plates, a proposal is the reading that measures best; facts that disturb the
 * picture most come first, and each is measured with the proposals before it taken.
 */
public final class LedgerMaker {

  private final ReceivedSet set;
  private final Rulings rulings;
  private final Observations features;
  private final Progress progress;
  private int asked;

  private LedgerMaker(ReceivedSet set, Rulings rulings, Observations features, Progress progress) {
    this.set = set;
    this.features = features;
    this.progress = progress;
    this.rulings = rulings;
  }

  /** Weighs what the files claim, under some rulings. */
  public static Ledger of(ReceivedSet set, Rulings rulings) {
    return of(set, rulings, Observations.NONE, Progress.NONE);
  }

  /**
   * The same, for those who watch and may cancel.
   *
   * @param features followed in the plates, in their frames and straight pixels: readings are
   *     measured on them where no 2D tracks came; may be empty
   */
  public static Ledger of(
      ReceivedSet set, Rulings rulings, Observations features, Progress progress) {
    return new LedgerMaker(set, rulings, features, progress).make();
  }

  private Ledger make() {
    ClaimCollector all = new ClaimCollector(set);
    Weighing first = weigh(all.claims(), rulings);
    // Once more with all proposals taken, so that each is measured with only itself in doubt.
    Weighing second = weigh(all.claims(), first.taken());
    List<Conflict> conflicts = new ArrayList<>(second.conflicts());
    conflicts.sort(Comparator.comparing(Conflict::fact));
    return new Ledger(all.sources(), all.claims(), conflicts, standing(), rulings);
  }

  private Weighing weigh(List<Claim<?>> claims, Rulings taken) {
    Weighing w = new Weighing(set, claims, rulings, taken, features);
    PictureQuestions picture = new PictureQuestions(w);
    ChoiceQuestions choice = new ChoiceQuestions(w);
    List<Runnable> questions =
        List.of(
            picture::pictureSize,
            picture::pixelAspect,
            choice::take,
            choice::whichCamera,
            new FirstFrameQuestion(w)::firstFrame,
            new SilenceQuestions(w)::silentAxesAndUnit,
            new FilmBackQuestion(w)::filmBack,
            new RateQuestion(w)::rate,
            picture::focalLength,
            picture::undistorted);
    for (Runnable q : questions) {
      progress.step(asked++, 2L * questions.size());
      q.run();
    }
    return w;
  }

  private Map<Fact<?>, String> standing() {
    Map<Fact<?>, String> out = new TreeMap<>();
    Shot shot;
    try {
      shot = set.shot("", rulings);
    } catch (InputError e) {
      return out;
    }
    shot.camera().ifPresent(c -> out.put(Fact.CAMERA, c.name()));
    rulings.of(Fact.TAKE).ifPresent(t -> out.put(Fact.TAKE, t));
    out.put(Fact.RATE, shot.rate().toString());
    out.put(Fact.FIRST_FRAME, Integer.toString(shot.frames().first()));
    out.put(Fact.LAST_FRAME, Integer.toString(shot.frames().last()));
    out.put(Fact.FRAME_COUNT, Integer.toString(shot.frames().count()));
    out.put(Fact.PICTURE_SIZE, shot.picture().toString());
    out.put(Fact.PIXEL_ASPECT, Double.toString(shot.picture().pixelAspect()).replace(".0", ""));
    shot.camera()
        .ifPresent(
            c -> {
              Optics o = c.optics().at(c.frames().first());
              out.put(
                  Fact.FILM_BACK, FilmBacks.words(new FilmBack(o.filmWidthMm(), o.filmHeightMm())));
              out.put(Fact.FOCAL_LENGTH, String.format(Locale.ROOT, "%.3f mm", o.focalLengthMm()));
            });
    return out;
  }
}
