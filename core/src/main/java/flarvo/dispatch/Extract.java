package flarvo.dispatch;

import flarvo.motion.Recast;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateRole;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import java.util.Objects;

/**
 * Of a shot, what a delivery is made from: which plates go with the camera, which frames, whether
 * it is levelled, and how motion, film and time are recast.
 *
 * @param plate role of the plates behind the camera: where they have overscan, the film back is
 *     theirs
 * @param head frames left off at the beginning, such as handles that the recipient does not want;
 *     negative for frames that are added, on which every motion is held
 * @param tail frames left off at the end; negative for frames that are added
 * @param levelled in the world of the shot's level; else in the space of the solve
 * @param recast of the frames that are left
 */
public record Extract(PlateRole plate, int head, int tail, boolean levelled, Recast recast) {

  /** Of frames that are added at one end. */
  private static final int MOST_ADDED = 10_000;

  /** All frames, levelled, with undistorted plates, which a camera fits. */
  public static final Extract WHOLE = behind(PlateRole.UNDISTORTED);

  public Extract {
    Objects.requireNonNull(plate);
    Objects.requireNonNull(recast);
    if (head < -MOST_ADDED || tail < -MOST_ADDED) {
      throw new IllegalArgumentException("at most " + MOST_ADDED + " frames are added at an end");
    }
  }

  /** All frames, levelled, with plates of a role. */
  public static Extract behind(PlateRole plate) {
    return new Extract(plate, 0, 0, true, Recast.NONE);
  }

  /** With plates of another role. */
  public Extract withPlate(PlateRole p) {
    return new Extract(p, head, tail, levelled, recast);
  }

  /** Whether frames are added on which every motion is held. */
  public boolean hasHandles() {
    return head < 0 || tail < 0;
  }

  /** With other frames left off, or added where negative. */
  public Extract leavingOff(int atHead, int atTail) {
    return new Extract(plate, atHead, atTail, levelled, recast);
  }

  /** Levelled or in the space of the solve. */
  public Extract levelled(boolean wanted) {
    return new Extract(plate, head, tail, wanted, recast);
  }

  /** With motion, film and time recast. */
  public Extract recast(Recast r) {
    return new Extract(plate, head, tail, levelled, r);
  }

  /** The same before anything is recast. */
  public Extract plain() {
    return recast(Recast.NONE);
  }

  /**
   * The shot as the delivery has it.
   *
   * @throws InputError when no frame is left, or what is to be held is not there
   */
  public Shot of(Shot whole) {
    return recast.of(allPlates(whole).over(plate));
  }

  /**
   * The frames that a delivery of a shot's frames has.
   *
   * @throws InputError when no frame is left
   */
  public FrameRange frames(FrameRange all) {
    return recast.frames(left(all));
  }

  private FrameRange left(FrameRange all) {
    if ((long) head + tail >= all.count()) {
      throw InputError.words(
          head + " and " + tail + " frames left off leave none of " + all.count(),
          "Leave off fewer");
    }
    return new FrameRange(all.first() + head, all.last() - tail);
  }

  /** The same with all plates, in its own picture. */
  public Shot allPlates(Shot whole) {
    Shot s = levelled ? whole : whole.withLevel(Similarity.IDENTITY);
    return head == 0 && tail == 0 ? s : s.on(left(s.frames()));
  }
}
