package flarvo.desktop.stop.proof;

import flarvo.proof.DriftReport;
import flarvo.scene.WorldShot;
import java.util.Optional;

/**
 * What the open shot is compared with.
 *
 * @param title over its picture
 * @param shot canonical, on plate frames
 * @param drift against the open shot; empty where nothing could be compared
 */
record Compared(String title, WorldShot shot, Optional<DriftReport> drift) {}
