package flarvo.format.abc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.Dialect;
import flarvo.format.ByteSink;
import flarvo.format.ByteSource;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.Rate;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Archives put together by hand: what other writers do and ours does not. */
class AbcSceneTest {

  @TempDir private Path dir;

  private final OgawaSink out = new OgawaSink();
  private final AbcHeaders headers = new AbcHeaders();

  /** An object with its headers: name, schema, properties, children. */
  private record Node(String name, String schema, String property, long group) {}

  private Node object(String name, String schema, String property, long properties, Node... kids) {
    AbcHeaders.Objects h = headers.objects();
    List<Long> all = new ArrayList<>();
    all.add(properties);
    for (Node k : kids) {
      h.add(k.name, k.schema, k.property);
      all.add(k.group);
    }
    all.add(out.data(h.bytes()));
    long g = out.group(all.stream().mapToLong(Long::longValue).toArray());
    return new Node(name, schema, property, g);
  }

  private long sample(AbcPod pod, double... v) {
    ByteSink b = new ByteSink(8 * v.length + 8);
    for (double d : v) {
      switch (pod) {
        case FLOAT64 -> b.f64(d);
        case FLOAT32 -> b.f32((float) d);
        case INT32 -> b.i32((int) d);
        default -> b.u8((int) d);
      }
    }
    return out.sample(pod, v.length, b.toBytes());
  }

  /** A compound with one compound inside that holds scalar properties. */
  private final class Geom {
    private final AbcHeaders.Properties own = headers.properties();
    private final List<Long> groups = new ArrayList<>();

    Geom add(String name, AbcPod pod, int sampling, double[]... samples) {
      own.scalar(name, pod, samples[0].length, samples.length, sampling);
      long[] g = new long[samples.length];
      for (int i = 0; i < g.length; i++) {
        g[i] = sample(pod, samples[i]);
      }
      groups.add(out.group(g));
      return this;
    }

    Geom texts(String name, String... texts) {
      byte[] b = (String.join("\0", texts) + "\0").getBytes(StandardCharsets.UTF_8);
      own.scalar(name, AbcPod.STRING, texts.length, 1, 0);
      groups.add(out.group(out.sample(AbcPod.STRING, texts.length, b)));
      return this;
    }

    private final List<Integer> arrays = new ArrayList<>();

    /** An array of one sample, with its dimensions beside it. */
    Geom array(String name, AbcPod pod, int extent, long bytes, int count) {
      arrays.add(own.bytes().length);
      own.scalar(name, pod, extent, 1, 0);
      ByteSink dims = new ByteSink(8);
      dims.i64(count);
      groups.add(out.group(bytes, out.data(dims.toBytes())));
      return this;
    }

    /** An array of several samples. */
    Geom arrays(String name, int sampling, double[]... samples) {
      arrays.add(own.bytes().length);
      own.scalar(name, AbcPod.FLOAT32, 3, samples.length, sampling);
      long[] g = new long[2 * samples.length];
      for (int i = 0; i < samples.length; i++) {
        ByteSink dims = new ByteSink(8);
        dims.i64(samples[i].length / 3);
        g[2 * i] = sample(AbcPod.FLOAT32, samples[i]);
        g[2 * i + 1] = out.data(dims.toBytes());
      }
      groups.add(out.group(g));
      return this;
    }

    /** A value for each, by its index among values that are stored once. */
    Geom indexed(String name, AbcPod pod, int extent, long values, int count, double... indices) {
      Geom inner = new Geom().array(".vals", pod, extent, values, count);
      inner.array(".indices", AbcPod.INT32, 1, sample(AbcPod.INT32, indices), indices.length);
      own.compound(name, "indexed");
      groups.add(inner.alone());
      return this;
    }

    Geom compound(String name, Geom inner) {
      own.compound(name, "x");
      groups.add(inner.alone());
      return this;
    }

    /** Headers say array where one is: the kind is in the lowest two bits. */
    private byte[] headerBytes() {
      byte[] b = own.bytes();
      arrays.forEach(at -> b[at] = (byte) (b[at] & ~3 | 2));
      return b;
    }

    long inside(String name) {
      groups.add(out.data(headerBytes()));
      AbcHeaders.Properties outer = headers.properties();
      outer.compound(name, "x");
      long inner = out.group(groups.stream().mapToLong(Long::longValue).toArray());
      return out.group(inner, out.data(outer.bytes()));
    }

    long alone() {
      groups.add(out.data(headerBytes()));
      return out.group(groups.stream().mapToLong(Long::longValue).toArray());
    }
  }

  private Path archive(String metadata, double[][] samplings, Node... top) throws IOException {
    Node root = object("", "", "", out.group(out.data(new byte[0])), top);
    ByteSink times = new ByteSink(256);
    times.i32(1);
    times.f64(1);
    times.i32(1);
    times.f64(0);
    for (double[] s : samplings) { // the cycle, then the times
      times.i32(9);
      times.f64(s[0]);
      times.i32(s.length - 1);
      for (int i = 1; i < s.length; i++) {
        times.f64(s[i]);
      }
    }
    ByteSink b =
        out.finish(
            out.group(
                out.data(new byte[4]),
                out.data(new byte[4]),
                root.group,
                out.data(metadata.getBytes(StandardCharsets.UTF_8)),
                out.data(times.toBytes()),
                out.data(headers.shared())));
    return Files.write(dir.resolve("a.abc"), b.toBytes());
  }

  private FileScene read(Path f) {
    return new AbcFormat().read(f, Dialect.CANONICAL, ReadLimits.USUAL, Progress.NONE);
  }

  private Node xform(String name, double[] ops, int sampling, double[][] values, Node... kids) {
    long p =
        new Geom()
            .add(".ops", AbcPod.UINT8, 0, ops)
            .add(".vals", AbcPod.FLOAT64, sampling, values)
            .inside(".xform");
    return object(name, "AbcGeom_Xform_v3", ".xform", p, kids);
  }

  private static double[] core(double focal) {
    return new double[] {focal, 3.6, 0.1, 2.4, -0.2, 1, 0, 0, 0, 0, 5.6, 5, 0, 0.02, 0.1, 1000};
  }

  private Node camera(Geom more, double focal) {
    long p = more.add(".core", AbcPod.FLOAT64, 0, core(focal)).inside(".geom");
    return object("camShape", "AbcGeom_Camera_v1", ".geom", p);
  }

  private long texts(String... t) {
    byte[] b = (String.join("\0", t) + "\0").getBytes(StandardCharsets.UTF_8);
    return out.sample(AbcPod.STRING, 1, b);
  }

  private Path indexedPoints(double... indices) throws IOException {
    long places = sample(AbcPod.FLOAT32, 1, 2, 3, 4, 5, 6);
    Geom names =
        new Geom().indexed("name", AbcPod.STRING, 1, texts("roof", "door", "unused"), 3, 1, 0, 2);
    long p =
        new Geom()
            .indexed("P", AbcPod.FLOAT32, 3, places, 2, indices)
            .compound(".arbGeomParams", names)
            .inside(".geom");
    return archive("", new double[0][], object("cloud", "AbcGeom_Points_v1", ".geom", p));
  }

  @Test
  void valuesThatAreStoredOnceAreFoundByTheirIndices() throws IOException {
    FileScene s = read(indexedPoints(1, 0, 1));
    assertThat(s.trackers().get(0).names()).containsExactly("door", "roof", "unused");
    assertThat(s.trackers().get(0).position(0)).isEqualTo(new Vec3(4, 5, 6));
    assertThat(s.trackers().get(0).position(1)).isEqualTo(new Vec3(1, 2, 3));
    assertThat(s.trackers().get(0).position(2)).isEqualTo(new Vec3(4, 5, 6));
  }

  @Test
  void anIndexOutsideTheValuesIsRefused() throws IOException {
    for (double bad : new double[] {2, -1}) {
      Path f = indexedPoints(0, bad, 1);
      assertThatThrownBy(() -> read(f))
          .isInstanceOf(InputError.class)
          .hasMessageContaining("asks for number");
    }
  }

  /** Every kind of operation in a random order, against matrices multiplied one by one. */
  @Test
  void transformsTakeAnyOrderOfOperations() throws IOException {
    Random r = new Random(2);
    List<Node> nodes = new ArrayList<>();
    List<Vector3d> expected = new ArrayList<>();
    for (int n = 0; n < 40; n++) {
      Matrix4d m = new Matrix4d();
      double[] ops = new double[4];
      List<Double> v = new ArrayList<>();
      for (int i = 0; i < ops.length; i++) {
        int kind = r.nextInt(7);
        ops[i] = kind << 4;
        int size = kind == 2 ? 4 : kind == 3 ? 16 : kind <= 1 ? 3 : 1;
        double[] x = new double[size];
        for (int k = 0; k < size; k++) {
          x[k] = kind == 0 ? 0.5 + r.nextDouble() : r.nextGaussian();
          v.add(x[k]);
        }
        double angle = Math.toRadians(x[size - 1]);
        switch (kind) {
          case 0 -> m.mul(new Matrix4d().scaling(x[0], x[1], x[2]));
          case 1 -> m.mul(new Matrix4d().translation(x[0], x[1], x[2]));
          case 2 ->
              m.mul(new Matrix4d().rotation(angle, new Vector3d(x[0], x[1], x[2]).normalize()));
          case 3 -> {
            for (int k = 0; k < 4; k++) { // rows for row vectors: the last column is 0 0 0 1
              v.set(v.size() - 16 + 4 * k + 3, k == 3 ? 1.0 : 0.0);
              x[4 * k + 3] = k == 3 ? 1 : 0;
            }
            Matrix4d t =
                new Matrix4d(
                    x[0], x[4], x[8], x[12], x[1], x[5], x[9], x[13], x[2], x[6], x[10], x[14],
                    x[3], x[7], x[11], x[15]);
            m.mul(t.transpose());
          }
          case 4 -> m.mul(new Matrix4d().rotationX(angle));
          case 5 -> m.mul(new Matrix4d().rotationY(angle));
          default -> m.mul(new Matrix4d().rotationZ(angle));
        }
      }
      double[] values = v.stream().mapToDouble(Double::doubleValue).toArray();
      nodes.add(xform("p" + n, ops, 0, new double[][] {values}));
      expected.add(m.getTranslation(new Vector3d()));
    }
    FileScene s = read(archive("", new double[0][], nodes.toArray(new Node[0])));
    for (int n = 0; n < 40; n++) {
      Vec3 p = s.trackers().get(0).position(n);
      assertThat(expected.get(n).distance(p.x(), p.y(), p.z())).as("node %d", n).isLessThan(1e-9);
    }
  }

  @Test
  void cyclicAndAcyclicTimesAreEvaluatedAtFrames() throws IOException {
    double[][] places = {{0, 0, 0}, {1, 0, 0}, {4, 0, 0}, {5, 0, 0}};
    // Two samples in each cycle of two frames: at the frame, and a quarter later.
    FileScene cyclic =
        read(
            archive(
                "_ai_DCC_FPS=24",
                new double[][] {{2 / 24.0, 10 / 24.0, 10.25 / 24.0}},
                xform("rig", new double[] {16}, 1, places, camera(new Geom(), 35))));
    assertThat(cyclic.rate().orElseThrow().value()).isEqualTo(Rate.FPS_24);
    var c = cyclic.cameras().get(0);
    assertThat(c.camera().frames()).isEqualTo(new FrameRange(10, 12));
    assertThat(c.camera().poses().at(12).position().x()).isCloseTo(4, within(1e-9));
    double after = 1 + 3 * (11 - 10.25) / 1.75;
    assertThat(c.camera().poses().at(11).position().x()).isCloseTo(after, within(1e-9));
    assertThat(c.offGridKeys()).isEqualTo(2);
  }

  @Test
  void acyclicTimesHoldTheirOwn() throws IOException {
    FileScene s =
        read(
            archive(
                "_ai_DCC_FPS=25",
                new double[][] {{AbcSampling.ACYCLIC, 1, 1.04, 1.2}},
                xform(
                    "rig",
                    new double[] {16},
                    1,
                    new double[][] {{0, 0, 0}, {1, 0, 0}, {9, 0, 0}},
                    camera(new Geom(), 35))));
    assertThat(s.cameras().get(0).camera().frames()).isEqualTo(new FrameRange(25, 30));
    assertThat(s.cameras().get(0).camera().poses().at(28).position().x())
        .isCloseTo(5, within(1e-9));
  }

  /** Two points, each on its own way, under a transform that moves too. */
  @Test
  void pointsThatMoveOneByOneAreFollowed() throws IOException {
    double[][] at = {{0, 0, 0, 5, 5, 5}, {1, 0, 0, 5, 6, 5}, {1, 3, 0, 5, 6, 8}};
    long p = new Geom().arrays("P", 1, at).inside(".geom");
    Node cloud = object("cloud", "AbcGeom_Points_v1", ".geom", p);
    double[][] above = {{100, 0, 0}, {110, 0, 0}, {120, 0, 0}};
    FileScene s =
        read(
            archive(
                "_ai_DCC_FPS=24",
                new double[][] {{1 / 24.0, 10 / 24.0}},
                xform("rig", new double[] {16}, 1, above, cloud)));
    for (int i = 0; i < 2; i++) {
      String name = "cloud_" + (i + 1);
      var set =
          s.trackers().stream().filter(t -> t.names().contains(name)).findFirst().orElseThrow();
      for (int f = 10; f <= 12; f++) {
        Vec3 v = set.position(set.names().indexOf(name), f);
        int k = f - 10;
        assertThat(v.x()).as(name).isCloseTo(at[k][3 * i] + above[k][0], within(1e-9));
        assertThat(v.y()).as(name).isCloseTo(at[k][3 * i + 1], within(1e-9));
        assertThat(v.z()).as(name).isCloseTo(at[k][3 * i + 2], within(1e-9));
      }
    }
  }

  @Test
  void theFilmBackIsReadInItsUnitsAndTransforms() throws IOException {
    Geom plain = new Geom();
    FileScene s = read(archive("", new double[0][], camera(plain, 35)));
    Optics o = s.cameras().get(0).camera().optics().at(0);
    assertThat(o.filmWidthMm()).isCloseTo(36, within(1e-12));
    assertThat(o.principalXMm()).isCloseTo(-1, within(1e-12));
    assertThat(o.principalYMm()).isCloseTo(2, within(1e-12));
  }

  @Test
  void aFilmBackTransformScalesAndShifts() throws IOException {
    Geom g =
        new Geom()
            .texts(".filmBackOps", "t-shift", "s-zoom")
            .add(".filmBackChannels", AbcPod.FLOAT64, 0, new double[] {0.5, 0, 2, 2});
    FileScene s = read(archive("", new double[0][], camera(g, 35)));
    Optics o = s.cameras().get(0).camera().optics().at(0);
    assertThat(o.filmWidthMm()).isCloseTo(18, within(1e-12));
    assertThat(o.principalXMm()).isCloseTo(-1 + 0.5 * 9, within(1e-12));
    assertThat(s.notes().toString()).contains("film back transform");
  }

  @Test
  void instancesRepeatTheirSourceAndCirclesAreRefused() throws IOException {
    Node stone = xform("stone", new double[] {16}, 0, new double[][] {{1, 2, 3}});
    Node copy = object("copy", "", "", new Geom().texts(".instanceSource", "/stone").alone());
    Node holder = xform("holder", new double[] {16}, 0, new double[][] {{10, 0, 0}}, copy);
    FileScene s = read(archive("", new double[0][], stone, holder));
    assertThat(s.trackerCount()).isEqualTo(2);
    assertThat(
            s.trackers().stream()
                .filter(t -> t.name().equals("holder"))
                .findFirst()
                .orElseThrow()
                .position(0))
        .isEqualTo(new Vec3(11, 2, 3));
  }

  @Test
  void anInstanceOfItselfIsRefused() throws IOException {
    Node copy = object("copy", "", "", new Geom().texts(".instanceSource", "/holder").alone());
    Node holder = xform("holder", new double[] {16}, 0, new double[][] {{10, 0, 0}}, copy);
    Path f = archive("", new double[0][], holder);
    assertThatThrownBy(() -> read(f)).isInstanceOf(InputError.class).hasMessageContaining("itself");
  }

  @Test
  void samplesThatRepeatAreStoredOnce() {
    AbcHeaders.Properties h = headers.properties();
    h.scalar("x", AbcPod.FLOAT64, 1, 10, 1);
    byte[] bytes = h.bytes();
    // first changed 4, last changed 6: samples 0-3 are one, 6-9 are one
    bytes[8] = 4;
    bytes[12] = 6;
    long values =
        out.group(
            sample(AbcPod.FLOAT64, 1),
            sample(AbcPod.FLOAT64, 2),
            sample(AbcPod.FLOAT64, 3),
            sample(AbcPod.FLOAT64, 4));
    long group = out.group(values, out.data(bytes));
    ByteSource in = ByteSource.of("t", finished(group));
    AbcArchive archive = new AbcArchive(in, ReadLimits.USUAL);
    AbcProperty p = archive.object().properties().property("x").orElseThrow();
    double[] seen = new double[10];
    for (int i = 0; i < 10; i++) {
      seen[i] = p.numbers(i)[0];
    }
    assertThat(seen).containsExactly(1, 1, 1, 1, 2, 3, 4, 4, 4, 4);
  }

  private byte[] finished(long properties) {
    AbcHeaders.Objects none = headers.objects();
    long root = out.group(properties, out.data(none.bytes()));
    ByteSink times = new ByteSink(64);
    for (int i = 0; i < 2; i++) {
      times.i32(1);
      times.f64(1);
      times.i32(1);
      times.f64(0);
    }
    return out.finish(
            out.group(
                out.data(new byte[4]),
                out.data(new byte[4]),
                root,
                out.data(new byte[0]),
                out.data(times.toBytes()),
                out.data(headers.shared())))
        .toBytes();
  }

  @Test
  void anArchiveThatWasNeverFinishedIsRefused() throws IOException {
    Path f = archive("", new double[0][], camera(new Geom(), 35));
    byte[] b = Files.readAllBytes(f);
    b[5] = 0;
    Files.write(f, b);
    assertThatThrownBy(() -> read(f)).hasMessageContaining("never finished");
  }
}
