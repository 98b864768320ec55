package flarvo.format.usd;

import flarvo.convention.Dialect;
import flarvo.format.ByteSink;
import flarvo.format.FileScene;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.CRC32;

/**
 * USD as a package, {@code .usdz}: a zip archive with one crate, stored plainly and beginning at a
 * multiple of 64 bytes.
 */
public final class UsdPackageFormat extends UsdFormat {

  private static final String ENTRY = "shot.usdc";
  private static final int ALIGNMENT = 64;
  private static final int LOCAL_HEADER = 30;

  /** An extra field of a private kind fills up to the alignment; its own header takes 4 bytes. */
  private static final int FILLER = 0x1986;

  /** 1980-01-01 00:00, so that the same shot gives the same bytes. */
  private static final int DATE = 1 << 5 | 1;

  @Override
  public String id() {
    return "usd-package";
  }

  @Override
  public String title() {
    return "USD package";
  }

  @Override
  public List<String> extensions() {
    return List.of(".usdz");
  }

  @Override
  public List<String> cannotCarry() {
    List<String> all = new ArrayList<>(super.cannotCarry());
    all.add(TEXTURES);
    return all;
  }

  @Override
  public boolean recognises(byte[] head) {
    return UsdPackage.recognises(head);
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    // A package refers to nothing outside of it.
    UsdLayerMaker maker = new UsdLayerMaker(scene.withoutTextures(), spoken, progress);
    UsdLayer layer = maker.make();
    byte[] crate = new UsdCrateWriter(layer, progress).write().toBytes();
    CRC32 crc = new CRC32();
    crc.update(crate);
    ByteSink zip = new ByteSink();
    int filler = ALIGNMENT - (LOCAL_HEADER + ENTRY.length() + 4) % ALIGNMENT;
    zip.i32(0x04034b50);
    common(zip, crc, crate.length, filler + 4);
    zip.text(ENTRY);
    zip.u16(FILLER);
    zip.u16(filler);
    zip.zeros(filler);
    zip.bytes(crate);
    int directory = zip.position();
    zip.i32(0x02014b50);
    zip.u16(20); // made by
    common(zip, crc, crate.length, 0);
    zip.zeros(2 + 2 + 2 + 4 + 4); // comment, disk, attributes, offset 0
    zip.text(ENTRY);
    int end = zip.position();
    zip.i32(0x06054b50);
    zip.zeros(4);
    zip.u16(1);
    zip.u16(1);
    zip.i32(end - directory);
    zip.i32(directory);
    zip.u16(0);
    zip.writeTo(out);
    return maker.notes();
  }

  /** What the local header and the directory share. */
  private static void common(ByteSink zip, CRC32 crc, int size, int extra) {
    zip.u16(20); // version needed
    zip.u16(0); // flags
    zip.u16(0); // stored
    zip.u16(0); // time
    zip.u16(DATE);
    zip.i32((int) crc.getValue());
    zip.i32(size);
    zip.i32(size);
    zip.u16(ENTRY.length());
    zip.u16(extra);
  }
}
