package flarvo.render;

import flarvo.scene.Mesh;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import flarvo.stage.Gauge;
import flarvo.stage.Staging;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** A shot with what stands in its world, to be drawn through its camera. */
public final class RenderScene {

  private final WorldShot shot;
  private final List<RenderItem> items;
  private final boolean levelled;
  private final Vec3 light;

  private RenderScene(WorldShot shot, boolean levelled, Vec3 light, List<RenderItem> items) {
    this.shot = shot;
    this.levelled = levelled;
    this.light = light;
    this.items = List.copyOf(items);
  }

  /**
   * Gauges, stand-ins and meshes, numbered from 1 in this order.
   *
   * @param received in solve space, without what was built on it
   */
  public static RenderScene of(Shot received, Staging staging) {
    Staging now = staging.following(received);
    WorldShot world = now.applied(received).levelled();
    Set<String> standIns = new HashSet<>();
    now.standIns().forEach(s -> standIns.add(s.name()));
    List<RenderItem> items = new ArrayList<>();
    for (Gauge g : now.gauges()) {
      items.add(RenderItem.of(items.size() + 1, g.name(), g.solid(received.level())));
    }
    for (Mesh m : world.meshes()) {
      if (standIns.contains(m.name())) {
        items.add(RenderItem.of(items.size() + 1, RenderItem.Kind.STAND_IN, m));
      }
    }
    for (Mesh m : world.meshes()) {
      if (!standIns.contains(m.name()) && m.faces() > 0) {
        items.add(RenderItem.of(items.size() + 1, RenderItem.Kind.MESH, m));
      }
    }
    boolean levelled = !received.level().equals(Similarity.IDENTITY);
    Vec3 light =
        now.light().map(received.level().rotation()::apply).orElse(RenderLook.USUAL.light());
    return new RenderScene(world, levelled, light, items);
  }

  /** How it is drawn unless something else is asked for: lit as the shot says, nothing held out. */
  public RenderLook look() {
    return new RenderLook(light, Set.of());
  }

  /** Levelled, with what was built on it. */
  public WorldShot shot() {
    return shot;
  }

  /** Whether the ground was ever said; the shadow lies on y = 0 in any case. */
  public boolean isLevelled() {
    return levelled;
  }

  List<RenderItem> items() {
    return items;
  }

  /** Names of what is drawn, in the order of their numbers. */
  public List<String> names() {
    return items.stream().map(RenderItem::name).toList();
  }

  /** The number in the identity pass; empty where nothing has that name. */
  public Optional<Integer> id(String name) {
    return items.stream().filter(i -> i.name().equals(name)).map(RenderItem::id).findFirst();
  }
}
