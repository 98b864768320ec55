package flarvo.format.fbx;

import flarvo.convention.Dialect;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;

/** What a file says of itself before and after its objects: settings, the document, takes. */
final class FbxHead {

  /** Name of the one take. */
  static final String STACK = "shot";

  private final FbxTree out;
  private final Dialect spoken;
  private final Rate rate;
  private final FrameRange range;

  FbxHead(FbxTree out, Dialect spoken, Rate rate, FrameRange range) {
    this.out = out;
    this.spoken = spoken;
    this.rate = rate;
    this.range = range;
  }

  /** All that goes before the definitions. */
  void write() {
    header();
    settings();
    document();
  }

  private void header() {
    out.open("FBXHeaderExtension");
    out.record("FBXHeaderVersion", 1003);
    out.record("FBXVersion", 7500);
    out.record("Creator", "Flarvo");
    out.close();
  }

  private void settings() {
    out.open("GlobalSettings");
    out.record("Version", 1000);
    out.open("Properties70");
    axis("UpAxis", spoken.world().up().index(), spoken.world().up().sign());
    axis("FrontAxis", spoken.world().away().index(), -spoken.world().away().sign());
    axis("CoordAxis", spoken.world().right().index(), spoken.world().right().sign());
    axis("OriginalUpAxis", spoken.world().up().index(), spoken.world().up().sign());
    double cm = spoken.unit().metresPerUnit() * 100;
    out.property("UnitScaleFactor", "double", "Number", "", cm);
    out.property("OriginalUnitScaleFactor", "double", "Number", "", cm);
    int mode = FbxTime.modeOf(rate);
    out.property("TimeMode", "enum", "", "", mode);
    out.property("TimeSpanStart", "KTime", "Time", "", FbxTime.tickOf(range.first(), rate));
    out.property("TimeSpanStop", "KTime", "Time", "", FbxTime.tickOf(range.last(), rate));
    out.property(
        "CustomFrameRate", "double", "Number", "", mode == FbxTime.CUSTOM ? rate.toDouble() : -1.0);
    out.close();
    out.close();
  }

  private void axis(String name, int index, int sign) {
    out.property(name, "int", "Integer", "", index);
    out.property(name + "Sign", "int", "Integer", "", sign);
  }

  private void document() {
    out.open("Documents");
    out.record("Count", 1);
    out.open("Document", 1000L, "Scene", "Scene");
    out.open("Properties70");
    out.property("ActiveAnimStackName", "KString", "", "", STACK);
    out.close();
    out.record("RootNode", 0L);
    out.close();
    out.close();
    out.open("References");
    out.close();
  }

  /** The last part of a file. */
  void takes() {
    out.open("Takes");
    out.record("Current", STACK);
    out.open("Take", STACK);
    long start = FbxTime.tickOf(range.first(), rate);
    long stop = FbxTime.tickOf(range.last(), rate);
    out.record("FileName", STACK + ".tak");
    out.record("LocalTime", start, stop);
    out.record("ReferenceTime", start, stop);
    out.close();
    out.close();
  }
}
