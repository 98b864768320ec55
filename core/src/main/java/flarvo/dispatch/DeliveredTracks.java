package flarvo.dispatch;

import flarvo.format.table.TrackTable;
import flarvo.lens.LensTrack;
import flarvo.lens.ThroughLens;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.Shot;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntUnaryOperator;

/**
 * 2D tracks as they lie beside a delivery: on the plates that go with it, numbered as its frames
 * are, without those of tracker groups that are left out.
 *
 * @param onPlates by frame of the plates
 * @param picture of the plates
 * @param bentBy the lens that the plates show, where they are the original ones and it is known
 * @param original whether they are the original ones
 * @param beyond places that are left out, because the lens folds before it reaches them
 * @param number of a frame of the plates in the table
 */
public record DeliveredTracks(
    Path file,
    Observations onPlates,
    PictureSize picture,
    Optional<LensTrack> bentBy,
    boolean original,
    int beyond,
    IntUnaryOperator number) {

  static final String SUBJECT = "2D tracks";

  /**
   * Of a delivery.
   *
   * @param shot as the delivery has it
   */
  static DeliveredTracks of(
      Outgoing from, Delivery delivery, Path file, Shot shot, IntUnaryOperator number) {
    boolean original =
        shot.plates().stream().findFirst().filter(p -> p.role() == PlateRole.ORIGINAL).isPresent();
    Optional<LensTrack> lens = original ? from.lens() : Optional.empty();
    Observations kept = kept(shot, leftOut(from, delivery));
    Observations there = lens.map(l -> ThroughLens.original(kept, l, shot.picture())).orElse(kept);
    return new DeliveredTracks(
        file, there, shot.picture(), lens, original, kept.size() - there.size(), number);
  }

  private static Set<String> leftOut(Outgoing from, Delivery delivery) {
    Set<String> out = new HashSet<>();
    from.shot().trackers().forEach(t -> out.addAll(t.names()));
    from.shot(delivery.contents()).trackers().forEach(t -> t.names().forEach(out::remove));
    return out;
  }

  private static Observations kept(Shot shot, Set<String> without) {
    Observations o = shot.observations();
    Observations.Builder b = new Observations.Builder();
    for (String name : o.names()) {
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        if (!without.contains(name) && shot.frames().contains(o.frame(row))) {
          b.add(name, o.frame(row), o.x(row), o.y(row));
        }
      }
    }
    return b.build();
  }

  /** By frame of the file. */
  public Observations numbered() {
    Observations.Builder b = new Observations.Builder();
    for (String name : onPlates.names()) {
      for (int row = onPlates.firstRow(name); row < onPlates.endRow(name); row++) {
        b.add(name, number.applyAsInt(onPlates.frame(row)), onPlates.x(row), onPlates.y(row));
      }
    }
    return b.build();
  }

  /** What their numbers mean. */
  String words() {
    String plates = original ? "original" : "undistorted";
    return "on the "
        + plates
        + " plates of "
        + picture
        + (original && bentBy.isEmpty() ? ", as far as they are straight: no lens is known" : "")
        + "; pixels from the left and from the top, the outer corner of the first pixel is 0, 0";
  }

  String text() {
    return TrackTable.exact(numbered(), List.of("picture: " + picture, words()));
  }
}
