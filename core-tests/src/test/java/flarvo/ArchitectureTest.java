package flarvo;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** Which room may know which. */
class ArchitectureTest {

  private static final JavaClasses CORE =
      new ClassFileImporter()
          .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
          .importPackages("flarvo");

  private static final String[] OUTSIDE = {
    "java..",
    "javax.imageio..",
    "org.joml..",
    "org.ejml..",
    "boofcv..",
    "georegression..",
    "org.ddogleg..",
    "com.fasterxml..",
    "org.apache.commons.csv..",
    "ch.randelshofer.fastdoubleparser..",
    "net.jpountz..",
    "org.bytedeco..",
    "org.lwjgl..",
    "de.javagl..",
    "org.slf4j..",
    "com.google.errorprone..",
    "com.sun.management.." // whether the processor can multiply and add at once
  };

  private static void mayKnow(String room, String... others) {
    String[] all = new String[others.length + OUTSIDE.length + 1];
    System.arraycopy(others, 0, all, 0, others.length);
    System.arraycopy(OUTSIDE, 0, all, others.length, OUTSIDE.length);
    all[all.length - 1] = room;
    classes()
        .that()
        .resideInAPackage(room)
        .should()
        .onlyDependOnClassesThat()
        .resideInAnyPackage(all)
        .check(CORE);
  }

  @Test
  void theModelKnowsNothingElseOfOurs() {
    mayKnow("flarvo.scene..");
    mayKnow("flarvo.report..");
    mayKnow("flarvo.work..", "flarvo.report..");
    mayKnow("flarvo.convention..", "flarvo.scene..", "flarvo.report..");
  }

  @Test
  void formatsKnowSceneAndConventionOnly() {
    for (String f : new String[] {"usd", "fbx", "abc", "gltf", "table", "mesh", "json"}) {
      mayKnow(
          "flarvo.format." + f + "..",
          "flarvo.format",
          "flarvo.scene..",
          "flarvo.convention..",
          "flarvo.report..",
          "flarvo.work..");
    }
  }

  @Test
  void importsRunOneWay() {
    mayKnow(
        "flarvo.receive..",
        "flarvo.suspect..",
        "flarvo.shotlist..",
        "flarvo.vet..",
        "flarvo.plate..",
        "flarvo.lens..",
        "flarvo.format..",
        "flarvo.scene..",
        "flarvo.convention..",
        "flarvo.report..",
        "flarvo.work..");
    mayKnow(
        "flarvo.shotlist..", "flarvo.format", "flarvo.scene..", "flarvo.report..", "flarvo.work..");
    mayKnow(
        "flarvo.folder..",
        "flarvo.shotlist..",
        "flarvo.receive..",
        "flarvo.plate..",
        "flarvo.lens..",
        "flarvo.format",
        "flarvo.scene..",
        "flarvo.report..",
        "flarvo.work..");
    mayKnow(
        "flarvo.plate..",
        "flarvo.lens..",
        "flarvo.format",
        "flarvo.scene..",
        "flarvo.report..",
        "flarvo.work..");
    mayKnow("flarvo.lens..", "flarvo.format", "flarvo.scene..", "flarvo.report..", "flarvo.work..");
    mayKnow("flarvo.vet..", "flarvo.lens..", "flarvo.scene..", "flarvo.report..", "flarvo.work..");
    mayKnow(
        "flarvo.level..",
        "flarvo.suspect..",
        "flarvo.vet..",
        "flarvo.scene..",
        "flarvo.convention..",
        "flarvo.report..",
        "flarvo.work..");
    mayKnow(
        "flarvo.stage..",
        "flarvo.level..",
        "flarvo.vet..",
        "flarvo.scene..",
        "flarvo.convention..",
        "flarvo.report..",
        "flarvo.work..");
    mayKnow("flarvo.motion..", "flarvo.scene..", "flarvo.report..");
    mayKnow(
        "flarvo.trace..",
        "flarvo.vet..",
        "flarvo.level..",
        "flarvo.lens..",
        "flarvo.scene..",
        "flarvo.report..",
        "flarvo.work..");
    mayKnow(
        "flarvo.render..",
        "flarvo.stage..",
        "flarvo.plate..",
        "flarvo.scene..",
        "flarvo.report..",
        "flarvo.work..");
    mayKnow(
        "flarvo.sender..",
        "flarvo.suspect..",
        "flarvo.receive..",
        "flarvo.format..",
        "flarvo.scene..",
        "flarvo.convention..",
        "flarvo.report..",
        "flarvo.work..");
    mayKnow(
        "flarvo.suspect..",
        "flarvo.scene..",
        "flarvo.convention..",
        "flarvo.report..",
        "flarvo.work..");
    noClasses()
        .that()
        .resideOutsideOfPackages("flarvo.project..", "flarvo.recipe..", "flarvo.decision..")
        .should()
        .dependOnClassesThat()
        .resideInAPackage("flarvo.decision..")
        .check(CORE);
    noClasses()
        .that()
        .resideOutsideOfPackage("flarvo.project..")
        .should()
        .dependOnClassesThat()
        .resideInAPackage("flarvo.project..")
        .check(CORE);
  }

  @Test
  void thereAreNoCyclesBetweenRooms() {
    // The registry in "format" names its formats; that one line is the only way back.
    slices().matching("flarvo.(*)..").should().beFreeOfCycles().check(CORE);
  }

  @Test
  void theCoreDrawsNothingAndPrintsNothing() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("javafx..", "javax.swing..")
        .check(CORE);
    noClasses().should().accessField(System.class, "out").check(CORE);
    noClasses().should().accessField(System.class, "err").check(CORE);
  }

  /** What is written must not depend on the machine's language. */
  @Test
  void numbersAreFormattedInALocaleThatIsNamed() {
    noClasses()
        .should()
        .callMethod(String.class, "format", String.class, Object[].class)
        .check(CORE);
    noClasses().should().callMethod(String.class, "formatted", Object[].class).check(CORE);
    noClasses().should().callMethod(String.class, "toLowerCase").check(CORE);
    noClasses().should().callMethod(String.class, "toUpperCase").check(CORE);
  }
}
