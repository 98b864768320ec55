package flarvo.format.usd;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** USD as a binary crate, {@code .usdc}; read from version 0.4, written as 0.8. */
public final class UsdCrateFormat extends UsdFormat {

  @Override
  public String id() {
    return "usd-crate";
  }

  @Override
  public String title() {
    return "USD crate";
  }

  @Override
  public List<String> extensions() {
    return List.of(".usdc", ".usd");
  }

  @Override
  public boolean recognises(byte[] head) {
    return new String(head, StandardCharsets.ISO_8859_1).startsWith(UsdCrateTables.MAGIC);
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    UsdLayerMaker maker = new UsdLayerMaker(scene, spoken, progress);
    UsdLayer layer = maker.make();
    new UsdCrateWriter(layer, progress).write().writeTo(out);
    return maker.notes();
  }
}
