package flarvo.recipient;

import flarvo.convention.Dialect;
import flarvo.proof.DriftReport;
import flarvo.proof.ProofReport;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import flarvo.scene.WorldShot;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * What a recipient makes of a file that is imported without any setting touched.
 *
 * @param recipient its dialect
 * @param taken every setting of its scene, and where it is from
 * @param rate of its scene
 * @param pictureFirst frame of its scene that shows the plate's first picture
 * @param range that its scene plays and saves
 * @param drift against what was sent, in pixels of the plate; empty without a camera
 * @param asMeantPx largest drift when every setting is as meant: what is wrong with the file
 *     itself; NaN without a camera
 * @param world how its world stands
 * @param bites what would be otherwise than meant, the harmful ones first
 * @param seen its scene, canonical, as it meets the pictures of the plate
 */
public record PlainImport(
    Path file,
    Dialect recipient,
    List<Taken> taken,
    Rate rate,
    int pictureFirst,
    FrameRange range,
    Optional<DriftReport> drift,
    double asMeantPx,
    WorldShift world,
    List<Bite> bites,
    WorldShot seen) {

  public PlainImport {
    taken = List.copyOf(taken);
    bites = List.copyOf(bites);
  }

  /** Whether picture, scale and orientation are right as they come. */
  public boolean holds() {
    return !isOff() && bites.stream().noneMatch(Bite::harms);
  }

  /** Whether the file is right once every setting is as meant. */
  public boolean fileHolds() {
    return !(asMeantPx > ProofReport.USUAL_LIMIT_PX);
  }

  /** Whether points are seen elsewhere than they should. */
  public boolean isOff() {
    return drift.map(d -> !(d.maxPx() <= ProofReport.USUAL_LIMIT_PX)).orElse(false);
  }

  /** What is to be said of it in one sentence. */
  public String sentence() {
    if (isOff() && !fileHolds()) {
      return String.format(
          Locale.ROOT,
          "The file is off by %.2f px with every setting as meant; see its proof.",
          asMeantPx);
    }
    long harm = bites.stream().filter(Bite::harms).count();
    if (harm == 0) {
      return bites.isEmpty()
          ? "A plain import is right as it comes."
          : "A plain import is right, with "
              + bites.size()
              + (bites.size() == 1 ? " setting" : " settings")
              + " to make.";
    }
    return "A plain import would be wrong in " + harm + (harm == 1 ? " setting." : " settings.");
  }
}
