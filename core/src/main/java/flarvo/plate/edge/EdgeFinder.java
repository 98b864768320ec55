package flarvo.plate.edge;

import boofcv.abst.feature.detect.line.DetectLineSegment;
import boofcv.factory.feature.detect.line.ConfigLineRansac;
import boofcv.factory.feature.detect.line.FactoryDetectLine;
import boofcv.struct.image.GrayF32;
import flarvo.report.InputError;
import flarvo.scene.Luma;
import georegression.struct.line.LineSegment2D_F32;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Finds long edges of a picture that may be straight in the world: segments by BoofCV, each then
 * traced by {@link EdgeTrace}. What is bent in the world is among them; a fit has to leave it out.
 */
public final class EdgeFinder {

  /** Shorter edges bend too little to show a lens, as a share of the picture's width. */
  private static final double SHORTEST = 0.12;

  /** Steepness of brightness from which a pixel may lie on an edge; for pictures of 0 to 255. */
  private static final double EDGE = 15;

  /** An edge whose middle is so near to another edge is the same one, px. */
  private static final double SAME = 4;

  private static final int MOST = 200;

  private EdgeFinder() {}

  /**
   * Edges, the longest first.
   *
   * @return x and y of each edge's points in turn, in canonical pixels
   */
  public static List<double[]> in(Luma luma) {
    GrayF32 image = new GrayF32(luma.width(), luma.height());
    image.data = luma.luma().clone();
    ConfigLineRansac config = new ConfigLineRansac();
    config.thresholdEdge = EDGE;
    DetectLineSegment<GrayF32> detector = FactoryDetectLine.lineRansac(config, GrayF32.class);
    List<LineSegment2D_F32> segments = new ArrayList<>(detector.detect(image));
    segments.sort(Comparator.comparingDouble((LineSegment2D_F32 s) -> -s.getLength()));
    List<double[]> out = new ArrayList<>();
    for (LineSegment2D_F32 s : segments) {
      if (s.getLength() < SHORTEST * luma.width() || out.size() == MOST) {
        break;
      }
      traced(luma, s).filter(xy -> out.stream().noneMatch(o -> isSame(o, xy))).ifPresent(out::add);
    }
    return out;
  }

  /** Empty where there is no edge to a fraction of a pixel. */
  private static Optional<double[]> traced(Luma luma, LineSegment2D_F32 s) {
    try {
      // BoofCV counts from the middle of the first pixel.
      return Optional.of(
          EdgeTrace.between(luma, s.a.x + 0.5, s.a.y + 0.5, s.b.x + 0.5, s.b.y + 0.5));
    } catch (InputError e) {
      return Optional.empty();
    }
  }

  private static boolean isSame(double[] longer, double[] xy) {
    int middle = xy.length / 4 * 2;
    for (int i = 0; i < longer.length; i += 2) {
      if (Math.hypot(longer[i] - xy[middle], longer[i + 1] - xy[middle + 1]) < SAME) {
        return true;
      }
    }
    return false;
  }
}
