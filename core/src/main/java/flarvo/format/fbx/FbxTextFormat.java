package flarvo.format.fbx;

import flarvo.convention.Dialect;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;

/** FBX 7.x as text; written as 7.5. */
public final class FbxTextFormat extends FbxFormat {

  @Override
  public String id() {
    return "fbx-text";
  }

  @Override
  public String title() {
    return "FBX text";
  }

  @Override
  public boolean recognises(byte[] head) {
    for (String line : new String(head, StandardCharsets.ISO_8859_1).split("\n", -1)) {
      String l = line.strip();
      if (!l.isEmpty() && !l.startsWith(";")) {
        return l.startsWith("FBXHeaderExtension") && l.indexOf(':') > 0;
      }
    }
    return false;
  }

  @Override
  FbxNode tree(Path file, ReadLimits limits, Progress progress) {
    return new FbxTextParser(file.toString(), TextSource.read(file, limits), limits, progress)
        .parse();
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    FbxTreeMaker maker = new FbxTreeMaker(scene, spoken, progress);
    new FbxTextWriter(out, progress).write(maker.make());
    return maker.notes();
  }
}
