package flarvo.dispatch;

import flarvo.convention.Dialects;
import flarvo.format.Formats;
import flarvo.scene.Shot;
import java.util.ArrayList;
import java.util.List;

/** Deliveries to begin with, for a shot whose recipients nobody has named yet. */
public final class FirstBoard {

  private static final String FILE = "{shot}_{recipient}_v{version}.{ext}";

  private FirstBoard() {}

  /**
   * One for each kind of department, with what the shot has.
   *
   * @param shot with everything that was built on it
   */
  public static List<Delivery> of(Shot shot, Dialects dialects) {
    List<Part> parts = new ArrayList<>();
    if (!shot.cameras().isEmpty()) {
      parts.add(Part.CAMERA);
    }
    if (shot.trackerCount() > 0) {
      parts.add(Part.TRACKERS);
    }
    if (!shot.meshes().isEmpty()) {
      parts.add(Part.GEOMETRY);
    }
    if (parts.isEmpty()) {
      return List.of();
    }
    Contents all = Contents.of(parts.toArray(Part[]::new));
    return List.of(
        new Delivery(
            "Animation", dialects.get("anim-yup-cm"), Formats.byId("fbx-binary"), all, FILE),
        new Delivery("Compositing", dialects.get("comp-yup"), Formats.byId("alembic"), all, FILE),
        new Delivery("Lighting", dialects.get("anim-yup-m"), Formats.byId("usd-crate"), all, FILE),
        new Delivery(
            "Engine", dialects.get("engine-yup-m"), Formats.byId("gltf-binary"), all, FILE));
  }
}
