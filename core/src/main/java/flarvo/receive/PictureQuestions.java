package flarvo.receive;

import flarvo.format.FileCamera;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** The picture's size, its lens, and whether it is undistorted. */
final class PictureQuestions {

  private static final double SAME_FOCAL = 0.005;

  private final Weighing w;

  PictureQuestions(Weighing w) {
    this.w = w;
  }

  void pictureSize() {
    // A proxy is smaller on purpose.
    Set<String> proxies =
        w.set().plates().stream()
            .filter(p -> p.role() == PlateRole.PROXY)
            .map(ClaimCollector::name)
            .collect(Collectors.toSet());
    List<Claim<PictureSize>> said =
        w.said(Fact.PICTURE_SIZE).stream().filter(c -> !proxies.contains(c.source())).toList();
    Set<PictureSize> sizes = new LinkedHashSet<>();
    said.forEach(c -> sizes.add(PictureSize.of(size(c).width(), size(c).height())));
    if (sizes.size() < 2) {
      return;
    }
    Optional<PlateSequence> plate = w.set().mainPlate();
    String proposal = plate.map(p -> p.picture().toString()).orElse(said.get(0).text());
    Map<String, String> readings = new LinkedHashMap<>();
    sizes.forEach(s -> readings.put(s.toString(), s.toString()));
    List<Evidence> evidence = w.trials().of(Fact.PICTURE_SIZE, readings);
    w.conflict(
        Fact.PICTURE_SIZE,
        Weighing.list(said),
        proposal,
        Weighing.measured(
            plate.isPresent()
                ? "trackers belong to the undistorted plate, so its size counts"
                : "the first file counts until the plates are here",
            evidence),
        evidence);
  }

  /** Where two sources state two; a square one may only not have been told. */
  void pixelAspect() {
    List<Claim<Double>> said = w.said(Fact.PIXEL_ASPECT);
    Set<Double> values = new LinkedHashSet<>();
    said.forEach(c -> values.add(c.value().orElseThrow()));
    if (values.size() < 2) {
      return;
    }
    Map<String, String> readings = new LinkedHashMap<>();
    said.forEach(c -> readings.putIfAbsent(c.value().orElseThrow().toString(), c.text()));
    List<Evidence> evidence = w.trials().of(Fact.PIXEL_ASPECT, readings);
    String proposal = readings.keySet().iterator().next();
    String reason = "the first source that states one";
    if (!evidence.isEmpty()
        && evidence.get(0).errorPx() < Weighing.BETTER * Weighing.of(evidence, proposal)) {
      proposal = evidence.get(0).ruling();
      reason = w.measuredOn() + " fit it best";
    }
    w.conflict(
        Fact.PIXEL_ASPECT,
        Weighing.list(said),
        proposal,
        Weighing.measured(reason, evidence),
        evidence);
  }

  private static PictureSize size(Claim<PictureSize> c) {
    return c.value().orElseThrow();
  }

  void focalLength() {
    Optional<Claim<FocalClaim>> log = w.logged(Fact.FOCAL_LENGTH);
    Optional<FileCamera> camera = w.camera();
    if (log.isEmpty() || camera.isEmpty() || camera.get().verticalAngleOnly()) {
      return;
    }
    double[] range = camera.get().camera().optics().focalLengthRangeMm();
    boolean length = log.get().value().orElseThrow() instanceof FocalClaim.Millimetres;
    if (!length) {
      return;
    }
    double logged = ((FocalClaim.Millimetres) log.get().value().orElseThrow()).least();
    if (logged < range[0] * (1 - SAME_FOCAL) || logged > range[1] * (1 + SAME_FOCAL)) {
      w.conflict(
          Fact.FOCAL_LENGTH,
          String.format(
              Locale.ROOT,
              "the camera states %.3f mm, the log %s (%s)",
              range[0],
              log.get().text(),
              log.get().place()),
          "",
          "a lens seldom is what is engraved on it; the solve's number stays",
          List.of());
    }
  }

  void undistorted() {
    boolean none = w.set().plates().stream().noneMatch(p -> p.role() == PlateRole.UNDISTORTED);
    if (!w.set().plates().isEmpty() && none && !w.set().lenses().isEmpty()) {
      w.conflict(
          Fact.UNDISTORTED,
          "there is a lens with distortion, but no plate that is undistorted",
          "",
          "trackers belong to the undistorted picture; bring that sequence or make it at Plate",
          List.of());
    }
  }
}
