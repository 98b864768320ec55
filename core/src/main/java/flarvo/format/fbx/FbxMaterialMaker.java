package flarvo.format.fbx;

import flarvo.format.NumberedPath;
import flarvo.report.Note;
import flarvo.scene.Texture;
import java.util.List;
import java.util.OptionalInt;
import java.util.function.LongSupplier;

/**
 * A texture as a matt material, the texture on it and the video that is its file. A sequence is its
 * first picture, marked as one, with how much higher its numbers are than the frames.
 */
final class FbxMaterialMaker {

  private final FbxTree out;
  private final LongSupplier ids;
  private final FbxMeshMaker.Connect connect;
  private final FbxMeshMaker.ConnectTo connectTo;
  private final List<Note> notes;

  FbxMaterialMaker(
      FbxTree out,
      LongSupplier ids,
      FbxMeshMaker.Connect connect,
      FbxMeshMaker.ConnectTo connectTo,
      List<Note> notes) {
    this.out = out;
    this.ids = ids;
    this.connect = connect;
    this.connectTo = connectTo;
    this.notes = notes;
  }

  /** Writes what a texture needs and ties it to a model. */
  void write(Texture t, String name, long model) {
    String first = t.files().firstEntry().getValue();
    OptionalInt offset = NumberedPath.offset(t);
    if (offset.isEmpty() && !t.isStill()) {
      notes.add(
          Note.lost(
              name, "its pictures are not numbered with the frames; the first one is on all"));
    }
    long material = ids.getAsLong();
    out.open("Material", material, new FbxName("Material", name + "_material"), "");
    out.record("Version", 102);
    out.record("ShadingModel", "lambert");
    out.record("MultiLayer", 0);
    out.open("Properties70");
    out.property("ShadingModel", "KString", "", "", "lambert");
    out.property("DiffuseColor", "Color", "", "A", 1.0, 1.0, 1.0);
    out.close();
    out.close();
    long video = ids.getAsLong();
    out.open("Video", video, new FbxName("Video", name + "_pictures"), "Clip");
    out.record("Type", "Clip");
    out.open("Properties70");
    out.property("Path", "KString", "XRefUrl", "", first);
    if (offset.isPresent()) {
      int from = NumberedPath.of(first).orElseThrow().number();
      out.property("ImageSequence", "bool", "", "", 1);
      out.property("ImageSequenceOffset", "int", "Integer", "", offset.getAsInt());
      out.property("StartFrame", "int", "Integer", "", from);
      out.property("StopFrame", "int", "Integer", "", t.files().lastKey() + offset.getAsInt());
    }
    out.close();
    out.record("UseMipMap", 0);
    out.record("Filename", first);
    out.record("RelativeFilename", first);
    out.close();
    long texture = ids.getAsLong();
    out.open("Texture", texture, new FbxName("Texture", name + "_texture"), "");
    out.record("Type", "TextureVideoClip");
    out.record("Version", 202);
    out.record("TextureName", new FbxName("Texture", name + "_texture"));
    out.record("Media", new FbxName("Video", name + "_pictures"));
    out.record("FileName", first);
    out.record("RelativeFilename", first);
    out.record("ModelUVTranslation", 0.0, 0.0);
    out.record("ModelUVScaling", 1.0, 1.0);
    out.record("Texture_Alpha_Source", t.alpha() ? "Alpha_Black" : "None");
    out.record("Cropping", 0, 0, 0, 0);
    out.close();
    connect.accept(material, model);
    connectTo.accept(texture, material, "DiffuseColor");
    if (t.alpha()) {
      connectTo.accept(texture, material, "TransparentColor");
    }
    connect.accept(video, texture);
  }
}
