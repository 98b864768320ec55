package flarvo.desktop;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import javafx.application.Platform;
import org.junit.jupiter.api.Test;

/** Which room of the window may know which: app, window, stops, stop, view, action, state, work. */
class ArchitectureTest {

  private static final String OURS = "flarvo.desktop";

  private static final JavaClasses DESKTOP =
      new ClassFileImporter()
          .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
          .importPackages(OURS);

  /** No arrow goes up: a room knows nothing of the window but itself and these. */
  private static void mayKnow(String room, String... others) {
    String[] known = new String[others.length + 1];
    known[0] = OURS + "." + room;
    for (int i = 0; i < others.length; i++) {
      known[i + 1] = OURS + "." + others[i];
    }
    noClasses()
        .that()
        .resideInAPackage(OURS + "." + room)
        .should()
        .dependOnClassesThat(
            com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage(OURS + "..")
                .and(
                    com.tngtech.archunit.base.DescribedPredicate.not(
                        com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAnyPackage(
                            known))))
        .check(DESKTOP);
  }

  @Test
  void noArrowGoesUp() {
    mayKnow("theme");
    mayKnow("work");
    mayKnow("action");
    mayKnow("state", "work", "theme");
    mayKnow("view", "state", "work", "theme");
    mayKnow("stop", "view", "state", "action");
    for (String s :
        new String[] {"receive", "trace", "vet", "level", "plate", "dispatch", "proof"}) {
      mayKnow("stop." + s, "stop", "view", "action", "state", "work", "theme");
    }
    mayKnow("window", "stop", "view", "action", "state", "work", "theme");
  }

  @Test
  void theWindowNamesNoStopAndStopsDoNotKnowEachOther() {
    noClasses()
        .that()
        .resideOutsideOfPackages(OURS, OURS + ".stop.*")
        .should()
        .dependOnClassesThat()
        .resideInAPackage(OURS + ".stop.*")
        .check(DESKTOP);
    slices().matching(OURS + ".stop.(*)").should().notDependOnEachOther().check(DESKTOP);
  }

  @Test
  void thereAreNoCycles() {
    slices().matching(OURS + ".(*)").should().beFreeOfCycles().check(DESKTOP);
  }

  /** Work comes back in one place; the others put changes of a pulse together. */
  @Test
  void onlyAFewComeBackToTheWindowsThread() {
    noClasses()
        .that()
        .haveNameNotMatching(".*\\.(Jobs|Job|PlateCache|TrackerTable|LineBar|ProjectStore)(\\$.*)?")
        .should()
        .callMethod(Platform.class, "runLater", Runnable.class)
        .check(DESKTOP);
  }

  @Test
  void threadsAreMadeByLanesAndThePlateCacheAlone() {
    noClasses()
        .that()
        .haveNameNotMatching(".*\\.(Jobs|PlateCache|Main)(\\$.*)?")
        .should()
        .dependOnClassesThat()
        .haveFullyQualifiedName("java.lang.Thread")
        .check(DESKTOP);
  }
}
