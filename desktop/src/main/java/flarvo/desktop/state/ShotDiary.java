package flarvo.desktop.state;

import flarvo.project.Diary;
import flarvo.vet.Reprojection;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** The open shot's diary: every step with the error of the shot as it is afterwards. */
final class ShotDiary {

  private final ShotStore store;
  private final List<String> untold = new ArrayList<>();
  private Diary diary = new Diary(List.of(), Clock.systemUTC());

  ShotDiary(ShotStore store) {
    this.store = store;
    store.now().addListener((o, a, b) -> tell());
  }

  void open(Diary d) {
    diary = d;
    untold.clear();
  }

  Diary diary() {
    return diary;
  }

  /** Written down when the error afterwards is known. */
  void done(String what) {
    untold.add(what);
    tell();
  }

  private void tell() {
    Worked<DerivedShot> drawn = store.now().get().get(DerivedShot.SLOT);
    if (untold.isEmpty() || !drawn.current()) {
      return;
    }
    Reprojection e = drawn.value() == null ? null : drawn.value().errors();
    String error = e == null ? "" : String.format(Locale.ROOT, " · %.2f px", e.rmsPx());
    untold.forEach(what -> diary.add(what + error));
    untold.clear();
  }
}
