package flarvo.decision;

import flarvo.motion.ObjectScale;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** What moves by itself in a shot. */
public sealed interface MotionDecision extends Decision {

  /**
   * Puts a solve that was made on a moving object into the shot.
   *
   * @param name of the object
   * @param files of its solve: camera and points
   * @param scale what settles how large and how far it is
   */
  @DecisionCode("add-moving-object")
  record AddMovingObject(String name, List<Path> files, ObjectScale scale)
      implements MotionDecision {
    public AddMovingObject {
      files = List.copyOf(files);
      if (name.isBlank()) {
        throw new IllegalArgumentException("a moving object needs a name");
      }
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      Outcome o = new Outcome.Reread(Optional.of(read(s, progress)));
      on(s, Optional.of(o)).state().shot(); // what cannot be is said before it is decided
      return Optional.of(o);
    }

    @Override
    public Outcome reread(Outcome stored, ShotState s, Progress progress) {
      return new Outcome.Reread(Optional.of(read(s, progress)));
    }

    /** Plates, rate and size of the shot are those of the object too. */
    private ReceivedSet read(ShotState s, Progress progress) {
      return s.received().isPresent()
          ? ShotIntake.otherSolve(s.received().get(), files, progress)
          : ShotIntake.of(files, progress)
              .received(IntakeOptions.NONE.withSize(s.shot().picture()));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      if (s.objects().stream().anyMatch(o -> o.name().equals(name))) {
        throw InputError.words("there is an object " + name + " already", "Give another name");
      }
      ReceivedSet set = ((Outcome.Reread) outcome.orElseThrow()).set().orElseThrow();
      List<MovingObject> all = new ArrayList<>(s.objects());
      all.add(new MovingObject(name, set.shot(name, s.rulings()), scale));
      return Applied.whole(s.withObjects(all));
    }

    @Override
    public List<Path> files() {
      return files;
    }

    @Override
    public AddMovingObject withPaths(UnaryOperator<Path> moved) {
      return new AddMovingObject(name, files.stream().map(moved).toList(), scale);
    }

    @Override
    public String title() {
      return "add moving object " + name;
    }
  }

  /** Settles the scale of a moving object otherwise; the picture stays the same. */
  @DecisionCode("scale-moving-object")
  record ScaleMovingObject(String name, ObjectScale scale) implements MotionDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<MovingObject> all = new ArrayList<>();
      s.objects().forEach(o -> all.add(o.name().equals(name) ? o.at(scale) : o));
      if (all.equals(s.objects()) && s.objects().stream().noneMatch(o -> o.name().equals(name))) {
        throw notThere(name);
      }
      return Applied.whole(s.withObjects(all));
    }

    @Override
    public String title() {
      return "scale moving object " + name;
    }
  }

  /** Takes a moving object out of the shot. */
  @DecisionCode("remove-moving-object")
  record RemoveMovingObject(String name) implements MotionDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      List<MovingObject> all = s.objects().stream().filter(o -> !o.name().equals(name)).toList();
      if (all.size() == s.objects().size()) {
        throw notThere(name);
      }
      return Applied.whole(s.withObjects(all));
    }

    @Override
    public String title() {
      return "remove moving object " + name;
    }
  }

  private static InputError notThere(String name) {
    return InputError.words("there is no moving object " + name, "Add it first");
  }
}
