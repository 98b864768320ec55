package flarvo.format.fbx;

import flarvo.convention.Dialect;
import flarvo.format.ByteSource;
import flarvo.format.FileScene;
import flarvo.format.ReadLimits;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;

/** FBX 7.x as a binary file; written as 7.5. */
public final class FbxBinaryFormat extends FbxFormat {

  @Override
  public String id() {
    return "fbx-binary";
  }

  @Override
  public String title() {
    return "FBX binary";
  }

  @Override
  public boolean recognises(byte[] head) {
    return FbxBinary.recognises(head);
  }

  @Override
  FbxNode tree(Path file, ReadLimits limits, Progress progress) {
    return new FbxBinaryParser(ByteSource.open(file, limits), limits, progress).parse();
  }

  @Override
  public List<Note> write(FileScene scene, Dialect spoken, OutputStream out, Progress progress)
      throws IOException {
    FbxTreeMaker maker = new FbxTreeMaker(scene, spoken, progress);
    new FbxBinaryWriter(progress).write(maker.make()).writeTo(out);
    return maker.notes();
  }
}
