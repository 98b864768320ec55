package flarvo.sender;

import flarvo.convention.Dialect;
import java.util.List;

/**
 * How a sender speaks, as far as files and evidence tell.
 *
 * @param dialect what is proposed; parts that are open are as usual
 * @param findings how each part of it is known
 * @param plainPx error of the files as they are read without it
 * @param errorPx error of the files as they are read with it
 * @param besides what else is wrong with the files, which no dialect mends; sentences without end
 * @param alike names of shipped dialects that differ in nothing that is known
 */
public record SenderReport(
    Dialect dialect,
    List<Finding> findings,
    double plainPx,
    double errorPx,
    List<String> besides,
    List<String> alike) {

  /** An error of tracking, not of a reading. */
  static final double FITS_PX = 2;

  public SenderReport {
    findings = List.copyOf(findings);
    besides = List.copyOf(besides);
    alike = List.copyOf(alike);
  }

  /** Whether the files fit the evidence when they are read so. */
  public boolean fits() {
    return errorPx <= FITS_PX;
  }
}
