package flarvo.convention;

import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;

/**
 * Between the canonical world in metres and a dialect's world in its unit.
 *
 * <pre>
 *   position   p' = B (p / metresPerUnit + o)
 *   rotation   R' = B R C⁻¹ = (B R B⁻¹)(B C⁻¹)
 * </pre>
 *
 * B takes canonical axes to the dialect's world axes, C canonical camera axes to its camera axes;
 * both have the same determinant, so R' is a proper rotation whatever the hand. o is half the
 * picture for a pixel space that starts at the top left, else zero.
 */
public final class SpaceChange {

  private final SignedBasis b;
  private final Rotation bc; // B C⁻¹
  private final double unitsPerMetre;
  private final double metresPerUnit;
  private final Vec3 offset;

  SpaceChange(Dialect d, PictureSize picture) {
    b = d.world().basis();
    bc = b.timesInverse(d.camera().basis(d.world().handedness()));
    metresPerUnit = d.unit().metresPerUnit();
    unitsPerMetre = d.pixels().map(PixelSpace::pixelsPerMetre).orElse(1 / metresPerUnit);
    offset = d.pixels().map(p -> p.offset(picture)).orElse(Vec3.ZERO);
  }

  /** From the canonical world (metres, y up, right-handed) to the dialect's. */
  public Vec3 toDialect(Vec3 metres) {
    return b.apply(metres.times(unitsPerMetre).plus(offset));
  }

  /** From the dialect's world to the canonical one (metres, y up, right-handed). */
  public Vec3 toCanonical(Vec3 units) {
    return b.applyInverse(units).minus(offset).times(metresPerUnit);
  }

  /** From the canonical world (metres, y up, right-handed) to the dialect's. */
  public Pose toDialect(Pose p) {
    return new Pose(toDialect(p.position()), b.conjugate(p.rotation()).after(bc));
  }

  /** From the dialect's world to the canonical one (metres, y up, right-handed). */
  public Pose toCanonical(Pose p) {
    return new Pose(
        toCanonical(p.position()), b.conjugateInverse(p.rotation().after(bc.inverse())));
  }

  /** From the canonical world (metres, y up, right-handed) to the dialect's. */
  public PoseTrack toDialect(PoseTrack t) {
    return PoseTrack.of(t.frames(), f -> toDialect(t.at(f)));
  }

  /** From the dialect's world to the canonical one (metres, y up, right-handed). */
  public PoseTrack toCanonical(PoseTrack t) {
    return PoseTrack.of(t.frames(), f -> toCanonical(t.at(f)));
  }

  /** Pose and clipping planes change; focal length and film back do not. */
  public ShotCamera toDialect(ShotCamera c) {
    ShotCamera moved = c.withPoses(toDialect(c.poses()));
    return c.clip().isPresent() ? moved.withClip(c.clip().get().scaled(unitsPerMetre)) : moved;
  }

  /** From the dialect's world to the canonical one (metres, y up, right-handed). */
  public ShotCamera toCanonical(ShotCamera c) {
    ShotCamera moved = c.withPoses(toCanonical(c.poses()));
    return c.clip().isPresent() ? moved.withClip(c.clip().get().scaled(metresPerUnit)) : moved;
  }

  /** From the canonical world (metres, y up, right-handed) to the dialect's. */
  public TrackerSet toDialect(TrackerSet t) {
    TrackerSet moved =
        t.moves()
            ? t.map(v -> b.apply(v.times(unitsPerMetre)))
                .inGroup(t.group().map(g -> g.map(this::groupToDialect)))
            : t.map(this::toDialect);
    return sized(moved, unitsPerMetre);
  }

  /** From the dialect's world to the canonical one (metres, y up, right-handed). */
  public TrackerSet toCanonical(TrackerSet t) {
    TrackerSet moved =
        t.moves()
            ? t.map(v -> b.applyInverse(v).times(metresPerUnit))
                .inGroup(t.group().map(g -> g.map(this::groupToCanonical)))
            : t.map(this::toCanonical);
    return sized(moved, metresPerUnit);
  }

  private static TrackerSet sized(TrackerSet t, double k) {
    return t.marker().isPresent() ? t.withMarker(t.marker().getAsDouble() * k) : t;
  }

  /** Faces are wound the other way where the hand changes. */
  public Mesh toDialect(Mesh m) {
    boolean turned = b.determinant() < 0;
    return m.moves()
        ? m.map(v -> b.apply(v.times(unitsPerMetre)), b::apply, turned)
            .inGroup(m.group().map(g -> g.map(this::groupToDialect)))
        : m.map(this::toDialect, b::apply, turned);
  }

  /** From the dialect's world to the canonical one (metres, y up, right-handed). */
  public Mesh toCanonical(Mesh m) {
    boolean turned = b.determinant() < 0;
    return m.moves()
        ? m.map(v -> b.applyInverse(v).times(metresPerUnit), b::applyInverse, turned)
            .inGroup(m.group().map(g -> g.map(this::groupToCanonical)))
        : m.map(this::toCanonical, b::applyInverse, turned);
  }

  /** From the canonical world (metres, y up, right-handed) to the dialect's. */
  public Group toDialect(Group g) {
    return g.map(this::groupToDialect);
  }

  /** What a similarity is that is stated in the canonical world, in the dialect's. */
  public Similarity toDialect(Similarity s) {
    return new Similarity(s.scale(), b.conjugate(s.rotation()), toDialect(s.translation()));
  }

  /** Groups have no axes of their own kind, as cameras have: both sides are the world's. */
  private PoseTrack groupToDialect(PoseTrack t) {
    return t.map(p -> new Pose(toDialect(p.position()), b.conjugate(p.rotation())));
  }

  private PoseTrack groupToCanonical(PoseTrack t) {
    return t.map(p -> new Pose(toCanonical(p.position()), b.conjugateInverse(p.rotation())));
  }
}
