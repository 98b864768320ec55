package flarvo.project;

import java.nio.file.Path;

/** Where this program keeps what belongs to the user and to no project. */
public final class UserFolder {

  /** Overrules the place, for tests and for people who want it elsewhere. */
  public static final String PROPERTY = "flarvo.home";

  private UserFolder() {}

  /** Where settings and copies are kept; set by {@value #PROPERTY}, else under the home folder. */
  public static Path path() {
    String set = System.getProperty(PROPERTY);
    if (set != null && !set.isEmpty()) {
      return Path.of(set);
    }
    String state = System.getenv("XDG_STATE_HOME");
    return state != null && !state.isEmpty()
        ? Path.of(state, "flarvo")
        : Path.of(System.getProperty("user.home", "."), ".flarvo");
  }
}
