package flarvo.decision;

import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.PlateSequence;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;

/**
 * Names the input of an outcome: a digest of what came in, and of every decision since. The same
 * numbers give the same identity, whatever file they lie in; a decision that changes nothing which
 * others rest on (a delivery) is left out of it.
 */
public final class InputIdentity {

  private static final int SHOWN = 32; // half of SHA-256 tells any two shots apart

  private final MessageDigest digest;
  private final ByteBuffer buffer = ByteBuffer.allocate(1 << 13);

  private InputIdentity() {
    try {
      digest = MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  /** Of a shot with nothing decided. */
  public static String of(ShotState base) {
    InputIdentity i = new InputIdentity();
    if (base.received().isPresent()) {
      i.set(base.received().get());
    } else {
      i.shot(base.whole());
    }
    return i.end();
  }

  /** Of the state after a decision. */
  static String after(String before, Decision d) {
    InputIdentity i = new InputIdentity();
    i.text(before);
    i.text(DecisionJson.canonical(d));
    return i.end();
  }

  private void set(ReceivedSet s) {
    for (ReceivedFile f : s.files()) {
      text(f.format().id());
      f.scene().cameras().forEach(c -> camera(c.camera()));
      f.scene().trackers().forEach(this::trackers);
      f.scene().meshes().forEach(this::mesh);
      observations(f.scene().observations());
      f.mapping().ifPresent(m -> text(m.toString()));
      text(f.scene().rate() + " " + f.scene().unit() + " " + f.scene().up());
    }
    s.plates().forEach(this::plates);
    s.logs().forEach(l -> text(l.claims().toString()));
    // What a sheet holds, wherever it is.
    s.lenses().forEach(l -> text(l.toString().replace(l.path().toString(), "")));
    text(said(s.base()));
  }

  private void shot(Shot s) {
    text(s.picture() + " " + s.rate() + " " + s.frames());
    s.cameras().forEach(this::camera);
    s.trackers().forEach(this::trackers);
    s.meshes().forEach(this::mesh);
    observations(s.observations());
    s.plates().forEach(this::plates);
  }

  private void plates(PlateSequence p) {
    text(p.pattern() + " " + p.frames() + " " + p.size() + " " + p.role().word());
  }

  private void pose(Pose p) {
    number(p.position().x());
    number(p.position().y());
    number(p.position().z());
    number(p.rotation().w());
    number(p.rotation().x());
    number(p.rotation().y());
    number(p.rotation().z());
  }

  private void group(Optional<Group> group) {
    for (Group g : group.map(Group::path).orElse(List.of())) {
      text(g.name());
      g.motion().ifPresent(this::motion);
    }
  }

  private void motion(PoseTrack t) {
    text(t.frames().toString());
    for (int f = t.frames().first(); f <= t.frames().last(); f++) {
      pose(t.at(f));
    }
  }

  private void mesh(Mesh m) {
    text(m.name());
    group(m.group());
    for (int i = 0; i < m.points(); i++) {
      number(m.x(i));
      number(m.y(i));
      number(m.z(i));
    }
    for (int i : m.faceIndices()) {
      number(i);
    }
  }

  private void camera(ShotCamera c) {
    text(c.name() + " " + c.frames());
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      pose(c.poses().at(f));
      Optics o = c.optics().at(f);
      number(o.focalLengthMm());
      number(o.filmWidthMm());
      number(o.filmHeightMm());
      number(o.principalXMm());
      number(o.principalYMm());
    }
  }

  private void trackers(TrackerSet t) {
    text(t.name());
    group(t.group());
    for (int i = 0; i < t.size(); i++) {
      text(t.names().get(i));
      number(t.x(i));
      number(t.y(i));
      number(t.z(i));
    }
  }

  private void observations(Observations o) {
    for (String n : o.names()) {
      text(n);
      for (int r = o.firstRow(n); r < o.endRow(n); r++) {
        number(o.frame(r));
        number(o.x(r));
        number(o.y(r));
      }
    }
  }

  private void number(double d) {
    if (buffer.remaining() < Double.BYTES) {
      drain();
    }
    buffer.putDouble(d);
  }

  private void text(String s) {
    drain();
    byte[] b = s.getBytes(StandardCharsets.UTF_8);
    digest.update(b);
    digest.update((byte) 0);
  }

  private void drain() {
    buffer.flip();
    digest.update(buffer);
    buffer.clear();
  }

  private String end() {
    drain();
    return HexFormat.of().formatHex(digest.digest()).substring(0, SHOWN);
  }

  /**
   * What the user said of the sender, in the words that projects were made with. Where files may
   * lie is no part of it: it changes nothing of what they hold.
   */
  static String said(IntakeOptions o) {
    return "IntakeOptions[from="
        + o.from()
        + ", size="
        + o.size()
        + ", pixelAspect="
        + o.pixelAspect()
        + ", rate="
        + o.rate()
        + ", filmBack="
        + o.filmBack()
        + ", take="
        + o.take()
        + ", camera="
        + o.camera()
        + ", plateFirst="
        + o.plateFirst()
        + ", up="
        + o.up()
        + ", unit="
        + o.unit()
        + "]";
  }
}
