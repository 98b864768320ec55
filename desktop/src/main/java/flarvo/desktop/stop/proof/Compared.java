package flarvo.desktop.stop.proof;

import flarvo.proof.Check;
import flarvo.proof.DriftReport;
import flarvo.scene.WorldShot;
import java.util.List;
import java.util.Optional;

/**
 * What the open shot is compared with.
 *
 * @param title over its picture
 * @param shot canonical, on plate frames
 * @param drift against the open shot; empty where nothing could be compared
 * @param checks of a file that somebody sent; none of a delivery, whose proof has them
 */
record Compared(String title, WorldShot shot, Optional<DriftReport> drift, List<Check> checks) {
  Compared {
    checks = List.copyOf(checks);
  }

  /** Without checks of its own. */
  Compared(String title, WorldShot shot, Optional<DriftReport> drift) {
    this(title, shot, drift, List.of());
  }
}
