package flarvo.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.format.ByteSink;
import flarvo.format.ByteSource;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.Consumer;
import java.util.zip.Deflater;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Records put together byte by byte, with offsets of 32 bits as older files have them. */
class FbxBinaryTest {

  private ByteSink out = new ByteSink();

  private void begin(int version) {
    out.bytes(FbxBinary.MAGIC);
    out.i32(version);
  }

  private void record(String name, int values, Consumer<ByteSink> body, Runnable inside) {
    int start = out.position();
    out.i32(0);
    out.i32(values);
    out.i32(0);
    out.u8(name.length());
    out.text(name);
    int from = out.position();
    body.accept(out);
    out.put32(start + 8, out.position() - from);
    if (inside != null) {
      inside.run();
      out.zeros(13);
    }
    out.put32(start, out.position());
  }

  private FbxNode parse() {
    return new FbxBinaryParser(
            ByteSource.of("t.fbx", out.toBytes()), ReadLimits.USUAL, Progress.NONE)
        .parse();
  }

  private static void array(ByteSink b, int type, int length, int encoding, byte[] data) {
    b.u8(type);
    b.i32(length);
    b.i32(encoding);
    b.i32(data.length);
    b.bytes(data);
  }

  private static byte[] floats(float... v) {
    ByteSink b = new ByteSink();
    for (float f : v) {
      b.f32(f);
    }
    return b.toBytes();
  }

  private static byte[] deflated(byte[] plain) {
    Deflater d = new Deflater();
    d.setInput(plain);
    d.finish();
    byte[] buffer = new byte[plain.length + 64];
    int n = d.deflate(buffer);
    d.end();
    return java.util.Arrays.copyOf(buffer, n);
  }

  @ParameterizedTest
  @ValueSource(ints = {7100, 7300, 7400})
  void everyKindOfValueInNarrowRecords(int version) {
    begin(version);
    record(
        "Top",
        7,
        b -> {
          b.u8('Y');
          b.u16(0xFFFE);
          b.u8('C');
          b.u8(1);
          b.u8('I');
          b.i32(-7);
          b.u8('L');
          b.i64(1L << 40);
          b.u8('F');
          b.f32(1.5f);
          b.u8('D');
          b.f64(0.1);
          b.u8('S');
          b.i32(8);
          b.text("cam\0\u0001Mod");
        },
        () -> {
          record("a", 1, b -> array(b, 'f', 3, 0, floats(1, 2, 3)), null);
          record("b", 1, b -> array(b, 'f', 3, 1, deflated(floats(4, 5, 6))), null);
        });
    out.zeros(13);
    FbxNode top = parse().children.get(0);
    assertThat(top.values.subList(0, 6)).containsExactly(-2L, 1L, -7L, 1L << 40, 1.5, 0.1);
    assertThat(FbxScene.plainName(top.text(6))).isEqualTo("cam");
    assertThat(top.child("a").orElseThrow().array()).containsExactly(1, 2, 3);
    assertThat(top.child("b").orElseThrow().array()).containsExactly(4, 5, 6);
  }

  /**
   * Single numbers are those of the whole record, wherever they stand and whatever lies between.
   */
  @Test
  void numbersOfAPropertyWithoutItsRecord() {
    begin(7400);
    record(
        "Properties70",
        0,
        b -> {},
        () -> {
          property("First", 3);
          property("Lcl Translation", 0.25);
        });
    out.zeros(13);
    List<FbxNode> all = parse().children.get(0).children;
    for (String name : List.of("First", "Lcl Translation")) {
      int at = FbxRecords.find(all, name);
      FbxNode whole = all.get(at);
      assertThat(whole.text(0)).isEqualTo(name);
      for (int from = 0; from < 11; from++) {
        assertThat(Double.valueOf(FbxRecords.number(all, at, from)))
            .as("%s %d", name, from)
            .isEqualTo(Double.valueOf(whole.number(from)));
        Vector3d some = new Vector3d(99);
        FbxRecords.vector(all, at, from, some);
        for (int k = 0; k < 3; k++) {
          double expected = whole.number(from + k);
          assertThat(some.get(k))
              .as("%s %d", name, from + k)
              .isEqualTo(Double.isNaN(expected) ? 99 : expected);
        }
      }
    }
    Vector3d place = new Vector3d();
    FbxRecords.vector(all, FbxRecords.find(all, "Lcl Translation"), 4, place);
    assertThat(place).isEqualTo(new Vector3d(0.25, 1.25, 2.25));
    assertThat(FbxRecords.find(all, "Last")).isEqualTo(-1);
  }

  private void property(String name, double first) {
    record(
        "P",
        9,
        b -> {
          for (String word : List.of(name, "Vector", "", "A")) {
            text(b, word);
          }
          for (int i = 0; i < 3; i++) {
            b.u8('D');
            b.f64(first + i);
          }
          b.u8('I');
          b.i32(-7);
          b.u8('Y');
          b.u16(0xFFFE);
        },
        null);
  }

  @Test
  void wholeNumbersOfAConnectionWithoutItsRecord() {
    begin(7400);
    record(
        "Connections",
        0,
        b -> {},
        () -> {
          connection("C", "OO", 12, 0);
          connection("D", "OO", 12, 0);
          connection("C", "OP", 1L << 40, -3);
        });
    out.zeros(13);
    List<FbxNode> all = parse().children.get(0).children;
    assertThat(all).hasSize(3);
    List<String> words = List.of("OO", "", "OP");
    for (int i = 0; i < 3; i++) {
      assertThat(FbxRecords.word(all, i, "C")).isEqualTo(words.get(i));
      assertThat(FbxRecords.word(all, i, "P")).isEmpty();
      for (int k = 0; k < 6; k++) {
        assertThat(FbxRecords.whole(all, i, k)).isEqualTo(all.get(i).whole(k));
      }
    }
    assertThat(FbxRecords.whole(all, 2, 1)).isEqualTo(1L << 40);
    assertThat(FbxRecords.whole(all, 2, 2)).isEqualTo(-3);
  }

  private void connection(String name, String kind, long child, long parent) {
    record(
        name,
        4,
        b -> {
          text(b, kind);
          b.u8('L');
          b.i64(child);
          b.u8('L');
          b.i64(parent);
          text(b, "Lcl Translation");
        },
        null);
  }

  private static void text(ByteSink b, String words) {
    b.u8('S');
    b.i32(words.length());
    b.text(words);
  }

  /** What else a model holds is checked, and left; other objects keep all. */
  @Test
  void ofAModelThePropertiesAlone() {
    objects("Model");
    FbxNode model = parse().children.get(0).children.get(0);
    assertThat(model.children).extracting(c -> c.name).containsExactly("Properties70");
    assertThat(model.children.get(0).children).hasSize(1);

    out = new ByteSink();
    objects("Geometry");
    FbxNode geometry = parse().children.get(0).children.get(0);
    assertThat(geometry.children)
        .extracting(c -> c.name)
        .containsExactly("Shading", "Properties70", "Culling");

    out = new ByteSink();
    objects("Model");
    int shading = find("Shading") - 1 - 12;
    out.put32(shading + 8, 3); // its value takes two bytes
    assertThatThrownBy(this::parse)
        .isInstanceOf(InputError.class)
        .hasMessageContaining("the values of 'Shading' do not fill their room")
        .hasMessageContaining("byte offset " + shading);
  }

  private int find(String word) {
    return new String(out.toBytes(), StandardCharsets.ISO_8859_1).indexOf(word);
  }

  private void objects(String kind) {
    begin(7400);
    record(
        "Objects",
        0,
        b -> {},
        () ->
            record(
                kind,
                0,
                b -> {},
                () -> {
                  record(
                      "Shading",
                      1,
                      b -> {
                        b.u8('C');
                        b.u8(1);
                      },
                      () -> record("in", 0, b -> {}, null));
                  record("Properties70", 0, b -> {}, () -> property("Lcl Translation", 1));
                  record("Culling", 1, b -> text(b, "CullingOff"), null);
                }));
    out.zeros(13);
  }

  @Test
  void arraysThatLieAreRefused() {
    begin(7300);
    record("Top", 1, b -> array(b, 'd', 2_000_000_000, 1, new byte[20]), null);
    out.zeros(13);
    assertThatThrownBy(this::parse)
        .isInstanceOf(InputError.class)
        .hasMessageContaining("claims 2000000000")
        .hasMessageContaining("byte offset");
  }

  @Test
  void aPackedArrayOfNoiseIsRefusedWhenItIsAskedFor() {
    begin(7300);
    record("Top", 1, b -> array(b, 'f', 3, 1, new byte[] {9, 9, 9, 9, 9, 9, 9}), null);
    out.zeros(13);
    FbxNode top = parse().children.get(0);
    assertThatThrownBy(top::array).isInstanceOf(InputError.class).hasMessageContaining("unpacked");
  }

  @Test
  void recordsThatReachTooFarOrRunInEachOther() {
    begin(7300);
    record("Top", 0, b -> {}, () -> record("in", 0, b -> {}, null));
    out.put32(FbxBinary.HEADER, 1 << 30);
    assertThatThrownBy(this::parse).hasMessageContaining("reaches to offset 1073741824");
  }

  @Test
  void depthAndVersionAreBounded() {
    begin(7300);
    deep(100);
    out.zeros(13);
    assertThatThrownBy(this::parse).hasMessageContaining("nested deeper than 64");
    ByteSink old = new ByteSink();
    old.bytes(FbxBinary.MAGIC);
    old.i32(6100);
    old.zeros(40);
    assertThatThrownBy(
            () ->
                new FbxBinaryParser(
                    ByteSource.of("o.fbx", old.toBytes()), ReadLimits.USUAL, Progress.NONE))
        .hasMessageContaining("FBX version 6.1");
  }

  private void deep(int levels) {
    record("n", 0, b -> {}, levels == 0 ? null : () -> deep(levels - 1));
  }
}
