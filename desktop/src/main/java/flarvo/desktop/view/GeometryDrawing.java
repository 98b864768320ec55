package flarvo.desktop.view;

import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Meshes that came in as their edges, and the way that each moving group takes. */
public final class GeometryDrawing {

  /** Edges of all meshes that are drawn; of more, every so-manieth. */
  private static final int MOST_EDGES = 6_000;

  private static final int MOST_OF_PATH = 300;

  private record Edges(Mesh mesh, int[] ends) {}

  private WorldShot known;
  private List<Edges> edges = List.of();
  private Set<Group> moving = Set.of();
  private int step = 1;

  /**
   * Draws edges with the stroke that is set.
   *
   * @param moved from the space of the shot to that which is drawn
   */
  public void draw(WorldDrawing world, WorldShot shot, int frame, Similarity moved) {
    take(shot);
    for (Edges e : edges) {
      for (int i = 0; i + 1 < e.ends.length; i += 2 * step) {
        world.line(
            moved.apply(e.mesh.position(e.ends[i], frame)),
            moved.apply(e.mesh.position(e.ends[i + 1], frame)));
      }
    }
  }

  /** Draws the path of every group that moves, with the stroke that is set. */
  public void paths(WorldDrawing world, WorldShot shot, Similarity moved) {
    take(shot);
    FrameRange frames = shot.frames();
    int each = Math.max(1, frames.count() / MOST_OF_PATH);
    for (Group g : moving) {
      Vec3 last = null;
      for (int f = frames.first(); f <= frames.last(); f += each) {
        Vec3 at = moved.apply(g.at(f).position());
        if (last != null) {
          world.line(last, at);
        }
        last = at;
      }
    }
  }

  /** The groups that move by themselves. */
  Set<Group> moving() {
    return moving;
  }

  @SuppressWarnings("ReferenceEquality")
  private void take(WorldShot shot) {
    if (shot == known) {
      return;
    }
    known = shot;
    edges = new ArrayList<>();
    long all = 0;
    for (Mesh m : shot.meshes()) {
      Edges e = new Edges(m, edgesOf(m));
      edges.add(e);
      all += e.ends.length / 2;
    }
    step = (int) Math.max(1, all / MOST_EDGES);
    moving = new LinkedHashSet<>();
    for (TrackerSet t : shot.trackers()) {
      t.group().ifPresent(this::add);
    }
    for (Mesh m : shot.meshes()) {
      m.group().ifPresent(this::add);
    }
  }

  private void add(Group g) {
    g.path().stream().filter(x -> x.motion().isPresent()).forEach(moving::add);
  }

  /** Each edge once, from the corner with the lower number. */
  private static int[] edgesOf(Mesh m) {
    int[] corners = m.faceIndices();
    int[] out = new int[2 * corners.length];
    int n = 0;
    int at = 0;
    Set<Long> seen = new java.util.HashSet<>();
    for (int f = 0; f < m.faces(); f++) {
      for (int i = 0; i < m.corners(f); i++) {
        int a = corners[at + i];
        int b = corners[at + (i + 1) % m.corners(f)];
        if (seen.add((long) Math.min(a, b) << 32 | Math.max(a, b))) {
          out[n++] = a;
          out[n++] = b;
        }
      }
      at += m.corners(f);
    }
    return java.util.Arrays.copyOf(out, n);
  }
}
