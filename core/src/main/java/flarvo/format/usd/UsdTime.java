package flarvo.format.usd;

import flarvo.format.KeySnap;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/** Time codes and frames of one layer. */
final class UsdTime {

  /** How far from a whole frame a sample may lie and still be on the grid, in frames. */
  private static final double GRID = 1e-6;

  final Sourced<Rate> rate;
  final Sourced<FrameRange> range; // null when the layer does not say
  final KeySnap snap;
  private final double codesPerFrame;
  private final String file;
  private final ReadLimits limits;

  UsdTime(Map<String, Object> metadata, String file, ReadLimits limits) {
    this.file = file;
    this.limits = limits;
    this.snap = new KeySnap(limits.snapKeys());
    Double fps = number(metadata, "framesPerSecond");
    Double tcps = number(metadata, "timeCodesPerSecond");
    if (fps != null) {
      rate = Sourced.said(rate(fps, "framesPerSecond"), "framesPerSecond");
    } else if (tcps != null) {
      rate = Sourced.said(rate(tcps, "timeCodesPerSecond"), "timeCodesPerSecond");
    } else {
      rate = Sourced.assumed(Rate.FPS_24, "the schema's fallback");
    }
    if (tcps != null) {
      rate(tcps, "timeCodesPerSecond"); // refused here when it is no rate
    }
    double codes = tcps != null ? tcps : fps != null ? fps : UsdLayer.FALLBACK_RATE;
    codesPerFrame = fps == null ? 1 : sameRate(codes, fps) ? 1 : codes / fps;
    Double start = number(metadata, "startTimeCode");
    Double end = number(metadata, "endTimeCode");
    if (start == null || end == null) {
      range = null;
    } else if (end < start) {
      throw new InputError(
          file,
          "endTimeCode",
          "the range ends at " + end + " before it starts at " + start + ": zero frames",
          "Request a new copy");
    } else {
      range = Sourced.said(range(start, end), "startTimeCode, endTimeCode");
    }
  }

  double codeOf(int frame) {
    return snap.at(frame) * codesPerFrame;
  }

  /** From now on the samples of one camera are what frames are snapped to, where that is wanted. */
  void goBy(double[] codes, String place, List<Note> notes) {
    snap.goBy(Arrays.stream(codes).map(c -> c / codesPerFrame).toArray(), place, notes);
  }

  /** Whole frames from the first sample to the last; null without samples. */
  FrameRange framesOf(double[] samples) {
    double[] codes =
        Arrays.stream(snap.snapped(Arrays.stream(samples).map(c -> c / codesPerFrame).toArray()))
            .map(f -> f * codesPerFrame)
            .toArray();
    return codes.length == 0 ? null : range(codes[0], codes[codes.length - 1]);
  }

  /** The first whole frame at or after a time code, from which on a value that is held counts. */
  int firstFrameFrom(double code) {
    double f = Math.ceil(code / codesPerFrame - GRID);
    return (int) Math.max(-1e8, Math.min(1e8, f));
  }

  int offGrid(double[] codes) {
    int n = 0;
    for (double c : codes) {
      double f = c / codesPerFrame;
      n += Math.abs(f - Math.rint(f)) > GRID ? 1 : 0;
    }
    return n;
  }

  private FrameRange range(double startCode, double endCode) {
    double first = Math.ceil(startCode / codesPerFrame - GRID);
    double last = Math.max(first, Math.floor(endCode / codesPerFrame + GRID));
    if (Math.abs(first) > 1e8 || Math.abs(last) > 1e8 || last - first + 1 > limits.mostFrames()) {
      throw new InputError(
          file,
          "",
          "the samples run from " + startCode + " to " + endCode + ", more frames than a shot has",
          "Request a new copy");
    }
    return new FrameRange((int) first, (int) last);
  }

  private Rate rate(double value, String name) {
    try {
      return Rate.fromDouble(value);
    } catch (IllegalArgumentException e) {
      throw new InputError(file, name, e.getMessage(), "Give the rate with --rate", e);
    }
  }

  private static boolean sameRate(double a, double b) {
    return Math.abs(a - b) <= 1e-9 * Math.max(Math.abs(a), Math.abs(b));
  }

  private Double number(Map<String, Object> metadata, String name) {
    Object v = metadata.get(name);
    if (v == null) {
      return null;
    }
    if (!(v instanceof Double d) || !Double.isFinite(d)) {
      throw new InputError(file, name, "a finite number expected", "Request a new copy");
    }
    return d;
  }
}
