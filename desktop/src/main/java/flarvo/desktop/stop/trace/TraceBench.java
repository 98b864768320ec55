package flarvo.desktop.stop.trace;

import flarvo.decision.Decided;
import flarvo.decision.LevelDecision;
import flarvo.decision.Outcome;
import flarvo.decision.TraceDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.trace.DrawnMask;
import flarvo.trace.KeyedMatte;
import flarvo.trace.MaskShape;
import flarvo.trace.TraceWork;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.TreeMap;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** Following and solving: which plates, what is armed and selected, what came of it. */
public final class TraceBench {

  /** Seconds for a million pixels of a frame, and for a feature in a frame; two cores. */
  private static final double SECONDS_A_MEGAPIXEL = 0.03;

  /** As measured on the demo's shots, two cores: objects that move, a solve, cleaning it up. */
  private static final double SECONDS_AN_OBSERVATION = 8e-4;

  /** Of the features that are wanted in a frame, those that there are and that are followed. */
  private static final double SHARE_SEEN = 0.8;

  private static final double SECONDS_A_FEATURE = 2.5e-4;

  private final Session session;
  private final ObjectProperty<PlateRole> plates = new SimpleObjectProperty<>(PlateRole.ORIGINAL);
  private final BooleanProperty drawing = new SimpleBooleanProperty();
  private final ObjectProperty<String> mask = new SimpleObjectProperty<>();
  private final StringProperty said = new SimpleStringProperty("");
  private final HandBench hand;
  private final MoverBench movers;
  private final PlaneBench planes;

  TraceBench(Session session) {
    this.session = session;
    hand = new HandBench(session, this);
    planes = new PlaneBench(session, this);
    movers = new MoverBench(session, this, hand.radius()::get);
    drawing.addListener(
        (o, a, b) -> {
          if (b) {
            session.view().plateRole().set(plates.get());
            hand.marking().set(false);
            planes.drawing().set(false);
          }
        });
    planes
        .drawing()
        .addListener(
            (o, a, b) -> {
              if (b) {
                drawing.set(false);
                hand.marking().set(false);
              }
            });
    hand.marking()
        .addListener(
            (o, a, b) -> {
              if (b) {
                drawing.set(false);
                planes.drawing().set(false);
              }
            });
    session
        .state()
        .addListener(
            (o, a, b) -> {
              if (mask.get() != null && b.trace().mask(mask.get()).isEmpty()) {
                mask.set(null);
              }
              if (!a.name().equals(b.name())) {
                said.set("");
                drawing.set(false);
              }
            });
  }

  TraceWork work() {
    return session.state().get().trace();
  }

  /** Features marked by hand. */
  public HandBench hand() {
    return hand;
  }

  /** What is flat and followed as a whole. */
  public PlaneBench planes() {
    return planes;
  }

  /** What moves against the rest. */
  public MoverBench movers() {
    return movers;
  }

  /** The plates that are followed. */
  ObjectProperty<PlateRole> plates() {
    return plates;
  }

  /** Whether clicks in the picture draw a mask. */
  public BooleanProperty drawing() {
    return drawing;
  }

  /** Name of the mask that is selected; null without one. */
  ObjectProperty<String> mask() {
    return mask;
  }

  /** What the last step came to. */
  StringProperty said() {
    return said;
  }

  Optional<PlateSequence> sequence() {
    return session.shot().get().plate(plates.get());
  }

  /** Why nothing can be followed; empty where it can. */
  String obstacle() {
    return sequence().isEmpty() ? "The shot has no " + plates.get().word() + " plates" : "";
  }

  /** Why nothing can be solved; empty where it can. */
  String solveObstacle() {
    return session.solved().observations().isEmpty() ? "No 2D tracks: follow features first" : "";
  }

  /** About how long following takes, and with what then moves and the solve. */
  String expected(int features) {
    if (sequence().isEmpty()) {
      return "";
    }
    PlateSequence p = sequence().get();
    PictureSize s = p.size();
    double seconds =
        p.frames().count()
            * (SECONDS_A_MEGAPIXEL * s.width() * s.height() / 1e6 + SECONDS_A_FEATURE * features);
    double solved = seconds + SECONDS_AN_OBSERVATION * SHARE_SEEN * p.frames().count() * features;
    return time(seconds) + ", with the solve " + time(solved);
  }

  private static String time(double seconds) {
    return seconds < 90
        ? Math.max(1, Math.round(seconds)) + " s"
        : Math.round(seconds / 60) + " min";
  }

  /** Follows features in the chosen plates. */
  void follow(int features, int radius, double errorPx, Runnable then) {
    TraceDecision.Follow d = new TraceDecision.Follow(plates.get(), features, radius, errorPx);
    session
        .store()
        .work(
            "Following features",
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> {
              said.set(words((Outcome.Features) x.outcome().orElseThrow()));
              then.run();
            },
            why -> {
              OptionalInt next = d.stoppedAt(session.state().get());
              failed(
                  next.isEmpty()
                      ? why
                      : why + ". Follow goes on with frame " + next.getAsInt() + ".");
            });
  }

  private static String words(Outcome.Features f) {
    Observations o = f.observations();
    StringBuilder b = new StringBuilder();
    b.append(
        String.format(
            Locale.ROOT,
            "%d features over %.0f frames each.",
            o.names().size(),
            (double) o.size() / Math.max(1, o.names().size())));
    return b.append(sentences(f.notes())).toString();
  }

  /** Notes as sentences, each with a blank before it. */
  static String sentences(List<String> notes) {
    StringBuilder b = new StringBuilder();
    for (String n : notes) {
      b.append(' ').append(Character.toUpperCase(n.charAt(0))).append(n, 1, n.length()).append('.');
    }
    return b.toString();
  }

  /** Solves camera and points from the 2D tracks. */
  void solve(TraceDecision.SolvingPlates d, Runnable then) {
    session
        .store()
        .work(
            "Solving",
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x -> {
              String words = ((Outcome.Solve) x.outcome().orElseThrow()).words();
              int out = work().movers().stream().mapToInt(m -> m.features().size()).sum();
              said.set(out == 0 ? words : words + " Left out: " + out + " features on what moves.");
              then.run();
            },
            this::failed);
  }

  /** Stands the solve on the ground that most of its points lie on. */
  void level() {
    LevelDecision d = new LevelDecision.ApplyGuess();
    session
        .store()
        .work(
            "Looking for the ground",
            (s, p) -> Decided.of(s, d, p),
            x -> x,
            x ->
                said.set(
                    said.get()
                        + " It stands on its ground; its size is not known. State a distance on"
                        + " Level."),
            why -> said.set(said.get() + " The ground was not found: " + why));
  }

  void forget() {
    session.store().decide(new TraceDecision.Forget());
  }

  /** Draws a mask on the shown frame. */
  void draw(double[] corners) {
    String name = freeName();
    session
        .store()
        .decide(
            new TraceDecision.DrawMask(
                plates.get(), new MaskShape(name, new TreeMap<>(Map.of(frame(), corners)))));
    mask.set(name);
    drawing.set(false);
  }

  /** Moves a corner of a mask: the mask has a key on the shown frame from then on. */
  void move(String name, int corner, double x, double y) {
    work()
        .mask(name)
        .ifPresent(
            m -> {
              double[] now = m.shape().at(frame());
              now[2 * corner] = x;
              now[2 * corner + 1] = y;
              TreeMap<Integer, double[]> keys = new TreeMap<>(m.shape().keys());
              keys.put(frame(), now);
              MaskShape moved = new MaskShape(name, keys);
              session.store().decide(new TraceDecision.DrawMask(drawnOver(m), moved));
            });
  }

  void removeMask() {
    if (mask.get() != null) {
      session.store().decide(new TraceDecision.RemoveMask(mask.get()));
    }
  }

  void matte(KeyedMatte use) {
    if (use != work().matte()) {
      session.store().decide(new TraceDecision.UseMatte(use));
    }
  }

  /** Whether there is anything that could be one. */
  boolean hasKeyedPlates() {
    return session.solved().plates().stream().anyMatch(p -> p.role() == PlateRole.KEYED);
  }

  void side(boolean inside) {
    if (inside != work().inside()) {
      session.store().decide(new TraceDecision.MaskSide(inside));
    }
  }

  /** The plates over which a mask was drawn; those that are followed where it is not known. */
  PlateRole drawnOver(DrawnMask m) {
    return m.plates().orElse(plates.get());
  }

  /**
   * A place of the plates that are followed, in the view.
   *
   * @param px x and y in pixels of the shot's picture; in pixels of the view then
   */
  void toView(DrawContext c, double[] px) {
    toView(c, plates.get(), px);
  }

  /** A place of some plates, in the view. */
  static void toView(DrawContext c, PlateRole of, double[] px) {
    if (of == PlateRole.ORIGINAL) {
      c.bend().fromOriginal(px);
    } else {
      c.bend().to(px);
    }
    px[0] = c.at().x(px[0]);
    px[1] = c.at().y(px[1]);
  }

  int frame() {
    return session.playhead().frame().get();
  }

  private String freeName() {
    for (int i = 1; ; i++) {
      String name = "mask " + i;
      if (work().mask(name).isEmpty()) {
        return name;
      }
    }
  }

  /** Says one thing more. */
  void add(String sentence) {
    said.set(said.get().isEmpty() ? sentence : said.get() + " " + sentence);
  }

  void failed(String why) {
    said.set(why);
    session.message().set(why);
  }
}
