package flarvo.desktop.find;

import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import flarvo.stage.Gauge;
import java.util.List;

/** What can be done at Level, by name. */
public final class LevelActions {

  private LevelActions() {}

  public static void add(List<Action> list, Session session) {
    list.add(new Action("Find the ground", "", at(session, session.level()::guessGround)));
    list.add(new Action("Take the first guess", "", at(session, session.level()::takeGuess)));
    list.add(
        new Action(
            "Knobs on or off",
            "G",
            at(
                session,
                () -> session.view().handlesShown().set(!session.view().handlesShown().get()))));
    for (Gauge.Kind k : Gauge.Kind.values()) {
      list.add(
          new Action(
              "Set a " + k.word(), "", at(session, () -> session.build().dropping().set(k))));
    }
    list.add(
        new Action("Card through the selected trackers", "", at(session, session.build()::card)));
    list.add(new Action("Remove all locators", "", at(session, session.build()::clearLocators)));
  }

  private static Runnable at(Session session, Runnable action) {
    return () -> {
      session.stop().set(Stop.LEVEL);
      action.run();
    };
  }
}
