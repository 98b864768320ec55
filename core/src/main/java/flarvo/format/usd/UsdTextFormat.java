package flarvo.format.usd;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** USD as a text layer, {@code .usda}. */
public final class UsdTextFormat extends UsdFormat {

  @Override
  public String id() {
    return "usd-text";
  }

  @Override
  public String title() {
    return "USD text";
  }

  @Override
  public List<String> extensions() {
    return List.of(".usda");
  }

  @Override
  public boolean recognises(byte[] head) {
    return new String(head, StandardCharsets.ISO_8859_1).startsWith("#usda ");
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    UsdLayerMaker maker = new UsdLayerMaker(scene, spoken, progress);
    new UsdTextWriter(maker.make(), out, progress).write();
    return maker.notes();
  }
}
