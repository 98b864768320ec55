package flarvo.format.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.PlateMention;
import flarvo.format.ReadLimits;
import flarvo.format.Regular;
import flarvo.format.Sourced;
import flarvo.report.InputError;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateRole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Texture;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;

/** Reads the document as it streams by; members that are not known are passed over. */
final class SceneJsonReader {

  private static final String ADVICE = "The document is described in docs/scene.md";
  private static final int POSE = 7;
  private static final int OPTICS = 5;
  private static final int NO_GROUP = -1;

  private final Path file;
  private final ReadLimits limits;
  private final Progress progress;
  private final FileScene.Builder out = new FileScene.Builder();
  private final Observations.Builder tracks = new Observations.Builder();
  private final List<Group> groups = new ArrayList<>();
  private JsonParser in;

  SceneJsonReader(Path file, ReadLimits limits, Progress progress) {
    this.file = file;
    this.limits = limits;
    this.progress = progress;
  }

  FileScene read() {
    try {
      long size = Files.size(file);
      if (size == 0 || size > limits.largestFile()) {
        throw new InputError(
            file.toString(), "", size == 0 ? "the file is empty" : "the file is too large", "");
      }
      try (JsonParser p = new JsonFactory().createParser(file.toFile())) {
        in = p;
        document();
      }
      out.observations = tracks.build();
      return out.build();
    } catch (NoSuchFileException e) {
      throw Regular.absent(file, e);
    } catch (JsonProcessingException e) {
      throw new InputError(
          file.toString(), place(), "not valid JSON (" + plain(e) + ")", ADVICE, e);
    } catch (IOException e) {
      throw new InputError(file.toString(), place(), "the file cannot be read", "", e);
    } catch (IllegalArgumentException e) {
      throw new InputError(file.toString(), place(), e.getMessage(), ADVICE, e);
    }
  }

  private static String plain(JsonProcessingException e) {
    String s = e.getOriginalMessage();
    return s == null ? "garbled" : s.replaceAll("\\p{Cntrl}+", " ");
  }

  private String place() {
    return in == null ? "" : "line " + in.currentLocation().getLineNr();
  }

  private interface Member {
    void read(String name) throws IOException;
  }

  private void object(Member member) throws IOException {
    expect(JsonToken.START_OBJECT, in.currentToken());
    while (in.nextToken() == JsonToken.FIELD_NAME) {
      String name = in.currentName();
      in.nextToken();
      progress.step(0, 0);
      member.read(name);
    }
    expect(JsonToken.END_OBJECT, in.currentToken());
  }

  private void objects(Member member, Runnable end) throws IOException {
    expect(JsonToken.START_ARRAY, in.currentToken());
    while (in.nextToken() == JsonToken.START_OBJECT) {
      object(member);
      end.run();
    }
    expect(JsonToken.END_ARRAY, in.currentToken());
  }

  private static void expect(JsonToken wanted, JsonToken is) {
    if (wanted != is) {
      throw new IllegalArgumentException("another type of value expected");
    }
  }

  private String text() throws IOException {
    expect(JsonToken.VALUE_STRING, in.currentToken());
    return in.getText();
  }

  private double number() throws IOException {
    if (!in.currentToken().isNumeric() || !Double.isFinite(in.getDoubleValue())) {
      throw new IllegalArgumentException("a number expected");
    }
    return in.getDoubleValue();
  }

  private double[] numbers() throws IOException {
    expect(JsonToken.START_ARRAY, in.currentToken());
    double[] v = new double[16];
    int n = 0;
    while (in.nextToken() != JsonToken.END_ARRAY) {
      if (in.currentToken() == null || n == limits.mostNumbers()) {
        throw new IllegalArgumentException("there are too many numbers");
      }
      v = n == v.length ? Arrays.copyOf(v, 2 * n) : v;
      v[n++] = number();
    }
    return Arrays.copyOf(v, n);
  }

  private double[] numbers(int count) throws IOException {
    double[] v = numbers();
    if (v.length != count) {
      throw new IllegalArgumentException(count + " numbers expected, not " + v.length);
    }
    return v;
  }

  private static int whole(double d) {
    if (d != Math.rint(d) || Math.abs(d) > 1e9) {
      throw new IllegalArgumentException(d + " is not an integer");
    }
    return (int) d;
  }

  private void document() throws IOException {
    in.nextToken();
    Map<String, SignedAxis> axes = new HashMap<>();
    String[] schema = {""};
    object(
        name -> {
          switch (name) {
            case "schema" -> schema[0] = text();
            case "version" -> version(whole(number()));
            case "rate" -> out.rate = Sourced.said(Rate.parse(text()), name);
            case "frames" -> {
              double[] f = numbers(2);
              out.range = Sourced.said(new FrameRange(whole(f[0]), whole(f[1])), name);
            }
            case "picture" -> {
              double[] p = numbers(3);
              out.picture = Sourced.said(new PictureSize(whole(p[0]), whole(p[1]), p[2]), name);
            }
            case "metresPerUnit" -> out.unit = Sourced.said(new LinearUnit(number()), name);
            case "axes" -> object(axis -> axes.put(axis, SignedAxis.parse(text())));
            case "plate" -> plate();
            case "cameras" -> cameras();
            case "groups" -> groups();
            case "trackers" -> trackers();
            case "tracks" -> tracks();
            case "meshes" -> meshes();
            default -> in.skipChildren();
          }
        });
    if (in.nextToken() != null || !schema[0].equals(SceneJsonFormat.SCHEMA)) {
      throw new IllegalArgumentException("not a scene document");
    }
    if (!axes.isEmpty()) {
      axes(axes);
    }
  }

  private static void version(int v) {
    if (v != SceneJsonFormat.VERSION) {
      throw new IllegalArgumentException("version " + v + " is not supported");
    }
  }

  private void axes(Map<String, SignedAxis> axes) {
    if (!axes.keySet().containsAll(List.of("right", "up", "away"))) {
      throw new IllegalArgumentException("axes need right, up and away");
    }
    out.world = new WorldAxes(axes.get("right"), axes.get("up"), axes.get("away"));
    out.up = Sourced.said(out.world.up(), "axes");
    out.handedness = Sourced.said(out.world.handedness(), "axes");
  }

  private void plate() throws IOException {
    String[] words = {"", PlateRole.ORIGINAL.word()};
    object(
        name -> {
          switch (name) {
            case "path" -> words[0] = text();
            case "role" -> words[1] = text();
            default -> in.skipChildren();
          }
        });
    out.plate = new PlateMention(words[0], PlateRole.of(words[1]));
  }

  private void cameras() throws IOException {
    Parts p = new Parts();
    objects(
        name -> {
          switch (name) {
            case "name" -> p.name = text();
            case "firstFrame" -> p.first = whole(number());
            case "clip" -> p.clip = numbers(2);
            case "poses" -> p.poses = numbers();
            case "optics" -> p.optics = numbers();
            default -> in.skipChildren();
          }
        },
        () -> {
          out.cameras.add(FileCamera.whole(p.camera(limits)));
          p.clear();
        });
  }

  /** Each group stands behind the one that it is in. */
  private void groups() throws IOException {
    Parts p = new Parts();
    objects(
        name -> {
          switch (name) {
            case "name" -> p.name = text();
            case "in" -> p.in = whole(number());
            case "firstFrame" -> p.first = whole(number());
            case "poses" -> p.poses = numbers();
            default -> in.skipChildren();
          }
        },
        () -> {
          Optional<PoseTrack> motion =
              p.poses.length == 0 ? Optional.empty() : Optional.of(p.track(limits));
          groups.add(new Group(p.name, group(p), motion));
          p.clear();
        });
  }

  private Optional<Group> group(Parts p) {
    if (p.in == NO_GROUP) {
      return Optional.empty();
    }
    if (p.in < 0 || p.in >= groups.size()) {
      throw new IllegalArgumentException("there is no group " + p.in + " before this one");
    }
    return Optional.of(groups.get(p.in));
  }

  private void trackers() throws IOException {
    Parts p = new Parts();
    objects(
        name -> {
          switch (name) {
            case "name" -> p.name = text();
            case "in" -> p.in = whole(number());
            case "names" -> p.names = texts();
            case "positions" -> p.poses = numbers();
            default -> in.skipChildren();
          }
        },
        () -> {
          if (p.poses.length != 3 * p.names.size()) {
            throw new IllegalArgumentException(
                p.names.size() + " names do not fit " + p.poses.length + " numbers");
          }
          out.trackers.add(TrackerSet.of(p.name, p.names, p.poses).inGroup(group(p)));
          p.clear();
        });
  }

  private List<String> texts() throws IOException {
    expect(JsonToken.START_ARRAY, in.currentToken());
    List<String> list = new ArrayList<>();
    while (in.nextToken() != JsonToken.END_ARRAY) {
      if (list.size() == limits.mostObjects()) {
        throw new IllegalArgumentException("there are too many names");
      }
      list.add(text());
    }
    return list;
  }

  private void tracks() throws IOException {
    Parts p = new Parts();
    objects(
        name -> {
          switch (name) {
            case "name" -> p.name = text();
            case "rows" -> p.poses = numbers();
            default -> in.skipChildren();
          }
        },
        () -> {
          if (p.poses.length % 3 != 0) {
            throw new IllegalArgumentException("rows are a frame, an x and a y each");
          }
          for (int i = 0; i < p.poses.length; i += 3) {
            tracks.add(p.name, whole(p.poses[i]), p.poses[i + 1], p.poses[i + 2]);
          }
          p.clear();
        });
  }

  private void meshes() throws IOException {
    Parts p = new Parts();
    objects(
        name -> {
          switch (name) {
            case "name" -> p.name = text();
            case "in" -> p.in = whole(number());
            case "normals" -> p.normals = numbers();
            case "uvs" -> p.uvs = numbers();
            case "texture" -> p.texture = texture();
            case "points" -> p.poses = numbers();
            case "faceSizes" -> p.optics = numbers();
            case "faces" -> p.clip = numbers();
            default -> in.skipChildren();
          }
        },
        () -> {
          double[] faces = p.clip == null ? new double[0] : p.clip;
          Mesh m =
              Mesh.of(
                  p.name,
                  p.poses,
                  Arrays.stream(p.optics).mapToInt(SceneJsonReader::whole).toArray(),
                  Arrays.stream(faces).mapToInt(SceneJsonReader::whole).toArray());
          m = p.normals.length > 0 ? m.withNormals(p.normals) : m;
          m = p.uvs.length > 0 ? m.withUvs(p.uvs) : m;
          out.meshes.add(m.withTexture(p.texture).inGroup(group(p)));
          p.clear();
        });
  }

  private Optional<Texture> texture() throws IOException {
    List<String> files = new ArrayList<>();
    List<Integer> frames = new ArrayList<>();
    boolean[] alpha = {false};
    object(
        name -> {
          switch (name) {
            case "alpha" -> alpha[0] = in.getBooleanValue();
            case "files" -> files.addAll(texts());
            case "frames" -> {
              for (double f : numbers()) {
                frames.add(whole(f));
              }
            }
            default -> in.skipChildren();
          }
        });
    if (files.size() != frames.size()) {
      throw new IllegalArgumentException(
          "a texture has " + files.size() + " files for " + frames.size() + " frames");
    }
    NavigableMap<Integer, String> all = new TreeMap<>();
    for (int i = 0; i < files.size(); i++) {
      all.put(frames.get(i), files.get(i));
    }
    return Optional.of(new Texture(all, alpha[0]));
  }

  /** Members of one object until all of them are here. */
  private static final class Parts {
    private static final double[] NONE = {};
    private String name = "";
    private int in = NO_GROUP;
    private int first;
    private double[] clip;
    private double[] normals = NONE;
    private double[] uvs = NONE;
    private double[] poses = NONE;
    private double[] optics = NONE;
    private List<String> names = List.of();
    private Optional<Texture> texture = Optional.empty();

    void clear() {
      name = "";
      in = NO_GROUP;
      first = 0;
      normals = NONE;
      uvs = NONE;
      clip = null;
      poses = NONE;
      optics = NONE;
      names = List.of();
      texture = Optional.empty();
    }

    ShotCamera camera(ReadLimits limits) {
      PoseTrack track = track(limits);
      FrameRange range = track.frames();
      boolean still = optics.length == OPTICS;
      if (!still && optics.length != OPTICS * range.count()) {
        throw new IllegalArgumentException(
            "a camera needs 5 numbers for the optics, of one frame or of each");
      }
      double[] o = optics;
      int from = first;
      return new ShotCamera(
          name,
          track,
          still
              ? OpticsTrack.constant(range, optics(o, 0))
              : OpticsTrack.of(range, f -> optics(o, OPTICS * (f - from))),
          clip == null ? Optional.empty() : Optional.of(new ClipRange(clip[0], clip[1])));
    }

    PoseTrack track(ReadLimits limits) {
      int frames = poses.length / POSE;
      if (frames == 0 || poses.length % POSE != 0 || frames > limits.mostFrames()) {
        throw new IllegalArgumentException("a motion needs 7 numbers per pose");
      }
      double[] p = poses;
      int from = first;
      return PoseTrack.of(
          new FrameRange(first, Math.addExact(first, frames - 1)), f -> pose(p, POSE * (f - from)));
    }

    private static Pose pose(double[] v, int i) {
      return new Pose(
          new Vec3(v[i], v[i + 1], v[i + 2]),
          Rotation.normalized(v[i + 3], v[i + 4], v[i + 5], v[i + 6]));
    }

    private static Optics optics(double[] v, int i) {
      return new Optics(v[i], v[i + 1], v[i + 2], v[i + 3], v[i + 4]);
    }
  }
}
