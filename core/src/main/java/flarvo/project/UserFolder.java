package flarvo.project;

import dev.dirs.ProjectDirectories;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * Where this program keeps what belongs to the user and to no project, as each system expects it:
 * on Linux the folders of the XDG base directory specification, elsewhere the usual ones.
 */
public final class UserFolder {

  /** Puts everything into one folder, for tests and for people who want it elsewhere. */
  public static final String PROPERTY = "flarvo.home";

  private static final List<String> SETTINGS = List.of("preferences.json", "mappings.json");
  private static final List<String> DATA = List.of("recent.txt", "recovery");

  private static boolean moved;

  private UserFolder() {}

  /** Preferences and saved mappings of tables. */
  public static Path settings() {
    return place(Places.SYSTEM.settings());
  }

  /** Recent projects, recovered work, and the user's copy of the demo. */
  public static Path data() {
    return place(Places.SYSTEM.data());
  }

  /** What the program logs. */
  public static Path logs() {
    return isSet() ? Path.of(System.getProperty(PROPERTY), "log") : Places.SYSTEM.logs();
  }

  private static boolean isSet() {
    return !System.getProperty(PROPERTY, "").isEmpty();
  }

  private static synchronized Path place(Path usual) {
    if (isSet()) {
      return Path.of(System.getProperty(PROPERTY));
    }
    if (!moved) {
      moved = true;
      moveOver(Places.old(), Places.SYSTEM);
    }
    return usual;
  }

  /**
   * Moves over what earlier versions kept in one folder. What is there already stays as it is, and
   * so does a copy of the demo, whose place recent projects name.
   */
  static void moveOver(Path old, Places to) {
    for (String name : SETTINGS) {
      move(old.resolve(name), to.settings().resolve(name));
    }
    for (String name : DATA) {
      move(old.resolve(name), to.data().resolve(name));
    }
    try {
      Files.deleteIfExists(old); // where nothing else is in it
    } catch (IOException e) {
      // Something else is in it.
    }
  }

  private static void move(Path from, Path to) {
    if (!Files.exists(from) || Files.exists(to)) {
      return;
    }
    try {
      Files.createDirectories(to.getParent());
      Files.move(from, to);
    } catch (IOException e) {
      // It stays where it is, and nothing is lost.
    }
  }

  /** Folders of a system. */
  record Places(Path settings, Path data, Path logs) {

    private static final Places SYSTEM = ofSystem();

    private static Places ofSystem() {
      ProjectDirectories d = ProjectDirectories.from("", "", "Flarvo");
      Path data = Path.of(d.dataLocalDir);
      String state = System.getenv("XDG_STATE_HOME");
      boolean linux = System.getProperty("os.name", "").startsWith("Linux");
      Path logs =
          !linux
              ? data.resolve("log")
              : state != null && Path.of(state).isAbsolute()
                  ? Path.of(state, "flarvo", "log")
                  : Path.of(System.getProperty("user.home"), ".local", "state", "flarvo", "log");
      return new Places(Path.of(d.configDir), data, logs);
    }

    /** Where everything was before version 0.2. */
    private static Path old() {
      String state = System.getenv("XDG_STATE_HOME");
      return state != null && !state.isEmpty()
          ? Path.of(state, "flarvo")
          : Path.of(System.getProperty("user.home", "."), ".flarvo");
    }
  }
}
