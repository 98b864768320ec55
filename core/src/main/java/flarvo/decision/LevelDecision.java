package flarvo.decision;

import flarvo.level.FirstGuess;
import flarvo.level.LevelScene;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.plate.PlateLuma;
import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Where the shot stands. */
public sealed interface LevelDecision extends Decision {

  /** States something known of trackers. */
  @DecisionCode("add-statement")
  record AddStatement(Stated stated) implements LevelDecision {
    public AddStatement(Statement s) {
      this(new Stated(s));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      stated.what().check();
      List<String> moving = s.moving(stated.what().trackers());
      if (!moving.isEmpty()) {
        throw InputError.words(
            "'" + stated.what().words() + "' is about " + moving.get(0) + ", which moves",
            "State it of trackers that stand still");
      }
      List<String> gone = s.missing(stated.what().trackers());
      List<Stated> all = new ArrayList<>(s.staging().statements());
      all.add(stated);
      return Applied.without(s.withStaging(s.staging().withStatements(all)), gone);
    }

    @Override
    public String title() {
      return "state that " + stated.what().words();
    }
  }

  /**
   * Switches a statement on or off, weighs it, or puts another in its place.
   *
   * @param which the statement as it stands
   * @param what is different, for the title
   */
  @DecisionCode("change-statement")
  record ChangeStatement(Statement which, Stated to, String what) implements LevelDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<Stated> all = new ArrayList<>(s.staging().statements());
      all.set(index(all, which), to);
      return Applied.whole(s.withStaging(s.staging().withStatements(all)));
    }

    @Override
    public String title() {
      return what;
    }
  }

  /** Removes a statement. */
  @DecisionCode("remove-statement")
  record RemoveStatement(Statement which) implements LevelDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<Stated> all = new ArrayList<>(s.staging().statements());
      all.remove(index(all, which));
      return Applied.whole(s.withStaging(s.staging().withStatements(all)));
    }

    @Override
    public String title() {
      return "remove statement: " + which.words();
    }
  }

  private static int index(List<Stated> all, Statement which) {
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).what().equals(which)) {
        return i;
      }
    }
    throw InputError.words("statement '" + which.words() + "' not found", "State it first");
  }

  /** Finds the ground by itself and applies what is found. */
  @DecisionCode("apply-guess")
  record ApplyGuess() implements LevelDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return Optional.of(new Outcome.Level(guess(s, new LevelScene(s.shot()), progress).level()));
    }

    /** The guess for this state, to be looked at before it is applied. */
    public static FirstGuess guess(ShotState s, LevelScene scene, Progress progress) {
      Optional<PlateSequence> plates = s.shot().plate(PlateRole.UNDISTORTED);
      return FirstGuess.of(
          scene, s.level(), f -> plates.flatMap(q -> PlateLuma.of(q, f)), progress);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withLevel(((Outcome.Level) outcome.orElseThrow()).level()));
    }

    @Override
    public String title() {
      return "apply first guess";
    }
  }

  /**
   * Moves the whole shot in the world.
   *
   * @param by from the world as it is to the world as it is wanted
   * @param what was done, for the title
   */
  @DecisionCode("move-level")
  record MoveLevel(Similarity by, String what) implements LevelDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withLevel(by.after(s.level())));
    }

    @Override
    public String title() {
      return what;
    }
  }

  /** Parts of the level that can be reset. */
  enum Part {
    TURN("turn"),
    TILT("tilt"),
    PLACE("place"),
    HEIGHT("height"),
    SIZE("size"),
    ALL("all");

    private final String word;

    Part(String word) {
      this.word = word;
    }

    /** As files spell it. */
    public String word() {
      return word;
    }

    /** On screen. */
    public String label() {
      return switch (this) {
        case TURN -> "rotation about up";
        case TILT -> "tilt";
        case PLACE -> "position";
        case HEIGHT -> "height";
        case SIZE -> "scale";
        case ALL -> "level";
      };
    }
  }

  /** One part as received, that is as solve space has it. */
  @DecisionCode("reset-level")
  record ResetLevel(Part part) implements LevelDecision {
    private static final Vec3 UP = new Vec3(0, 1, 0);

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Similarity l = s.level();
      Vec3 t = l.translation();
      Rotation upright = Rotation.between(l.rotation().inverse().apply(UP), UP);
      return Applied.whole(
          s.withLevel(
              switch (part) {
                case ALL -> Similarity.IDENTITY;
                case SIZE -> new Similarity(1, l.rotation(), t.times(1 / l.scale()));
                case PLACE -> new Similarity(l.scale(), l.rotation(), new Vec3(0, t.y(), 0));
                case HEIGHT -> new Similarity(l.scale(), l.rotation(), new Vec3(t.x(), 0, t.z()));
                case TURN -> new Similarity(l.scale(), upright, t);
                // What rotates solve space about its own up is kept.
                case TILT -> new Similarity(l.scale(), l.rotation().after(upright.inverse()), t);
              }));
    }

    @Override
    public String title() {
      return "reset " + part.label();
    }
  }
}
