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
import java.util.regex.Pattern;

/** FBX 7.x as text; written as 7.5. */
public final class FbxTextFormat extends FbxFormat {

  private static final Pattern HEAD =
      Pattern.compile("\\A(\\s*;[^\\n]*\\n|\\s+)*FBXHeaderExtension\\s*:");

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
    return HEAD.matcher(new String(head, StandardCharsets.ISO_8859_1)).find();
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
