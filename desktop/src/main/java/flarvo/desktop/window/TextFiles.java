package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.desktop.work.Lane;
import flarvo.project.Diary;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.Optional;
import java.util.function.Supplier;

/** The diary and the ledger as text, for files and for the clipboard. */
public final class TextFiles {

  private final Session session;

  public TextFiles(Session session) {
    this.session = session;
  }

  /** Empty while there is none. */
  public Optional<String> diary() {
    return !session.isOpen()
        ? Optional.empty()
        : Optional.of(
            Diary.asText(
                session.state().get().name(),
                session.project().diary().entries(),
                ZoneId.systemDefault()));
  }

  /** Empty while claims are being weighed. */
  public Optional<String> ledger() {
    return Optional.ofNullable(session.ledger().get()).map(l -> l.asText());
  }

  /** Written beside the window; what it is called is said when it is there. */
  public void save(String what, String text, Path file) {
    save(what, () -> text, file);
  }

  /** The same for a text that is put together beside the window. */
  void save(String what, Supplier<String> made, Path file) {
    session
        .jobs()
        .run(
            Lane.KEEP,
            "Saving the " + what,
            p -> {
              byte[] text = made.get().getBytes(StandardCharsets.UTF_8);
              AtomicFile.write(file, out -> out.write(text));
              return file;
            },
            f -> session.message().set("Saved the " + what + " as " + f.getFileName()),
            session.message()::set);
  }
}
