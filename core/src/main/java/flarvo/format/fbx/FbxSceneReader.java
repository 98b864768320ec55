package flarvo.format.fbx;

import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.format.FileGroups;
import flarvo.format.FileNames;
import flarvo.format.FileScene;
import flarvo.format.KeySnap;
import flarvo.format.PlateMention;
import flarvo.format.ReadLimits;
import flarvo.format.Sourced;
import flarvo.format.TrackerCollector;
import flarvo.format.TreeNode;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.Rate;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.joml.Matrix4d;

/** Evaluates records into a {@link FileScene}. */
final class FbxSceneReader {

  private final String file;
  private final ReadLimits limits;
  private final Progress progress;
  private final FileScene.Builder out = new FileScene.Builder();
  private FbxClock clock;

  FbxSceneReader(String file, ReadLimits limits, Progress progress) {
    this.file = file;
    this.limits = limits;
    this.progress = progress;
  }

  FileScene read(FbxNode root, Optional<String> take) {
    FbxScene scene = new FbxScene(root, file, take);
    out.takes.addAll(scene.takes);
    out.notes.addAll(scene.notes);
    axes(scene.settings);
    out.unit = unit(scene.settings);
    out.rate = rate(scene.settings);
    Rate rate = out.rate.value();
    clock = new FbxClock(rate, new KeySnap(limits.snapKeys()));
    out.range = range(scene, rate);
    FrameRange sceneRange = out.range == null ? null : out.range.value();
    FbxCameraReader cameras = new FbxCameraReader(file, clock, limits.mostFrames(), out.notes);
    FileNames cameraNames = new FileNames();
    Map<String, Integer> others = new TreeMap<>();
    List<FbxObject> cameraNodes = new ArrayList<>();
    List<FbxObject> nulls = new ArrayList<>();
    List<FbxObject> meshes = new ArrayList<>();
    for (FbxObject o : scene.objects.values()) {
      progress.step(0, 0);
      if (!o.kind.equals("Model")) {
        continue;
      }
      switch (o.subclass) {
        case "Camera" -> {
          FbxObject attribute =
              o.children().stream()
                  .filter(c -> c.kind.equals("NodeAttribute"))
                  .findFirst()
                  .orElseGet(
                      () -> new FbxObject(0, "NodeAttribute", o.name, "Camera", o.node, Map.of()));
          if (FbxCameraReader.isOrthographic(attribute)) {
            out.notes.add(
                Note.ignored("Camera " + o.name, "it is orthographic; a solved camera is not"));
          } else {
            out.cameras.add(cameras.read(o, attribute, cameraNames.unique(o.name), sceneRange));
            cameraNodes.add(o);
            about(o, attribute);
          }
        }
        case "Null" -> {
          if (!o.holdsModels()) {
            nulls.add(o);
          }
        }
        case "Mesh" -> meshes.add(o);
        default -> others.merge(o.subclass, 1, Integer::sum);
      }
    }
    List<FbxObject> models = models(scene);
    FbxRotationNotes.add(models, out.notes);
    FrameRange frames =
        FileGroups.frames(
            sceneRange, out.cameras, () -> cameras.framesOf(models), limits.mostFrames());
    FileGroups groups = new FileGroups(file, frames, root(models), out.notes);
    clock.snap.goByFirst();
    out.hang(groups, cameraNodes.stream().map(this::node).toList());
    TrackerCollector trackers = new TrackerCollector(file, limits);
    for (FbxObject o : nulls) {
      progress.step(0, 0);
      FbxTreeNode n = node(o);
      FileGroups.Placement in = groups.ofTracker(n);
      Matrix4d world = n.world(frames.first());
      trackers.add(in, o.name, in.of(world), 0, 0, 0, n::place);
      for (FbxObject c : o.children()) {
        if (c.kind.equals("NodeAttribute") && c.has("Size")) {
          trackers.size(in, c.number("Size", 0), world);
        }
      }
    }
    FbxMeshReader reader = new FbxMeshReader(file, out.notes);
    for (FbxObject o : meshes) {
      progress.step(0, 0);
      reader.read(node(o), groups).ifPresent(out.meshes::add);
    }
    out.trackers.addAll(trackers.sets());
    out.locatorSizes.putAll(trackers.sizes());
    out.parents.addAll(groups.parents());
    others.forEach((k, n) -> out.notes.add(Note.ignored("", n + " × " + k + " not understood")));
    return out.build();
  }

  private static List<FbxObject> models(FbxScene scene) {
    return scene.objects.values().stream().filter(o -> o.kind.equals("Model")).toList();
  }

  /** The one model at the top that holds everything; null where there are several. */
  private TreeNode root(List<FbxObject> models) {
    List<FbxObject> top = models.stream().filter(o -> o.parent == null).toList();
    boolean holds = top.size() == 1 && top.get(0).holdsModels();
    return holds ? node(top.get(0)) : null;
  }

  private FbxTreeNode node(FbxObject o) {
    if (o.treeNode == null) {
      o.treeNode = new FbxTreeNode(o, o.parent == null ? null : node(o.parent), clock);
    }
    return o.treeNode;
  }

  private void about(FbxObject model, FbxObject attribute) {
    double width = attribute.number("AspectWidth", 0);
    double height = attribute.number("AspectHeight", 0);
    double pixelAspect = attribute.number("PixelAspectRatio", 1);
    // Small numbers are a ratio such as 16:9, not a size.
    if (out.picture == null && width >= 64 && height >= 64 && width < 1e6 && height < 1e6) {
      out.picture =
          Sourced.said(
              new PictureSize(
                  (int) width,
                  (int) height,
                  pixelAspect > 0 && pixelAspect < 100 ? pixelAspect : 1),
              "Camera " + model.name + ", AspectWidth and AspectHeight");
    }
    model
        .text("plate")
        .filter(p -> !p.isEmpty())
        .ifPresent(
            p ->
                out.plate =
                    new PlateMention(p, PlateRole.stated(model.text("plateRole").orElse(""))));
  }

  private void axes(FbxObject settings) {
    SignedAxis up = axis(settings, "UpAxis", 1);
    SignedAxis front = axis(settings, "FrontAxis", 2);
    SignedAxis right = axis(settings, "CoordAxis", 0);
    try {
      WorldAxes world = new WorldAxes(right, up, front.negated());
      boolean silent = !settings.has("UpAxis");
      out.world = world;
      String place = silent ? "the format's fallback" : "GlobalSettings";
      out.up = new Sourced<>(up, silent, place + (silent ? "" : ".UpAxis"));
      out.handedness = new Sourced<>(world.handedness(), silent, place);
    } catch (IllegalArgumentException e) {
      throw new InputError(file, "GlobalSettings", e.getMessage(), "Request a new copy", e);
    }
  }

  private SignedAxis axis(FbxObject settings, String name, int fallback) {
    int index = (int) settings.number(name, fallback);
    int sign = settings.number(name + "Sign", 1) < 0 ? -1 : 1;
    if (index < 0 || index > 2) {
      throw new InputError(file, "GlobalSettings." + name, index + " is not an axis", "");
    }
    return SignedAxis.of(index, sign);
  }

  private Sourced<LinearUnit> unit(FbxObject settings) {
    double cm = settings.number("UnitScaleFactor", 1);
    try {
      return new Sourced<>(
          new LinearUnit(cm / 100),
          !settings.has("UnitScaleFactor"),
          settings.has("UnitScaleFactor")
              ? "GlobalSettings.UnitScaleFactor"
              : "the format's fallback");
    } catch (IllegalArgumentException e) {
      throw new InputError(
          file, "GlobalSettings.UnitScaleFactor", e.getMessage(), "Request a new copy", e);
    }
  }

  private Sourced<Rate> rate(FbxObject settings) {
    int mode = (int) settings.number("TimeMode", 0);
    if (mode == FbxTime.CUSTOM) {
      double custom = settings.number("CustomFrameRate", -1);
      try {
        return Sourced.said(Rate.fromDouble(custom), "GlobalSettings.CustomFrameRate");
      } catch (IllegalArgumentException e) {
        throw new InputError(
            file, "GlobalSettings.CustomFrameRate", e.getMessage(), "Give --rate", e);
      }
    }
    return FbxTime.rateOf(mode)
        .map(r -> Sourced.said(r, "GlobalSettings.TimeMode"))
        .orElseGet(() -> Sourced.assumed(Rate.FPS_30, "the format's fallback"));
  }

  /** As the take states it, else as the file does for all of them. */
  private Sourced<FrameRange> range(FbxScene scene, Rate rate) {
    if (scene.stack != null
        && scene.stack.number("LocalStop", 0) > scene.stack.number("LocalStart", 0)) {
      Sourced<FrameRange> own =
          range(scene.stack, "LocalStart", "LocalStop", "take " + scene.stack.name, rate);
      sayConflict(
          own, range(scene.settings, "TimeSpanStart", "TimeSpanStop", "GlobalSettings", rate));
      return own;
    }
    return range(scene.settings, "TimeSpanStart", "TimeSpanStop", "GlobalSettings", rate);
  }

  private void sayConflict(Sourced<FrameRange> take, Sourced<FrameRange> scene) {
    if (take != null && scene != null && !take.value().equals(scene.value())) {
      out.notes.add(
          Note.conflicting(
              "frame range",
              take.place()
                  + " says "
                  + take.value()
                  + ", "
                  + scene.place()
                  + " says "
                  + scene.value()
                  + "; the first counts here"));
    }
  }

  private Sourced<FrameRange> range(FbxObject of, String from, String to, String where, Rate rate) {
    double start = of.number(from, Double.NaN);
    double stop = of.number(to, Double.NaN);
    if (Double.isNaN(start) || Double.isNaN(stop)) {
      return null;
    }
    double first = Math.rint(FbxTime.frameOf(start, rate));
    double last = Math.rint(FbxTime.frameOf(stop, rate));
    if (last < first) {
      throw new InputError(
          file,
          where + "." + to,
          "the range ends before it starts: zero frames",
          "Request a new copy");
    }
    if (Math.abs(first) > 1e8 || last - first + 1 > limits.mostFrames()) {
      return null; // a time span of years is a default, not a shot
    }
    return Sourced.said(new FrameRange((int) first, (int) last), where + "." + from);
  }
}
