package flarvo.format.usd;

import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Puts layers together into one that points nowhere. What is strongest wins, in this order: the
 * layer and its sublayers, what it inherits, the chosen variants, references, payloads, and last
 * what it specializes; each brings its own arcs with it.
 */
final class UsdComposer {

  static final List<String> ARCS = List.of("references", "payload", "inherits", "specializes");

  private static final Set<String> NOT_CARRIED =
      Set.of("references", "payload", "inherits", "specializes", "variants", "variantSets");

  private final UsdLibrary library;
  private final String file;
  private final ReadLimits limits;
  private final Progress progress;
  private final List<Note> notes;
  private UsdSites sites;
  private int prims;

  UsdComposer(
      UsdLibrary library, String file, ReadLimits limits, Progress progress, List<Note> notes) {
    this.library = library;
    this.file = file;
    this.limits = limits;
    this.progress = progress;
    this.notes = notes;
  }

  UsdLayer compose(UsdLayer first) {
    sites = new UsdSites(first, library, file, limits, progress, notes);
    UsdLayer out = new UsdLayer();
    out.place = first.place;
    out.name = first.name;
    out.metadata.putAll(first.metadata);
    out.metadata.remove("subLayers");
    for (String name : sites.names()) {
      prim(sites.top(name), name, "/", 1, List.of()).ifPresent(out.roots::add);
    }
    return out;
  }

  /**
   * Clips that give values to a prim and to what is below it.
   *
   * @param stack whose own opinions are stronger than the clips
   * @param path of the prim that states them
   */
  private record Clipped(UsdClips clips, UsdStack stack, String path) {}

  private List<Clipped> clipped(List<UsdSites.Site> sites, String path, List<Clipped> above) {
    List<Clipped> out = new ArrayList<>();
    for (UsdSites.Site s : sites) {
      for (UsdStack.Opinion o : s.opinions()) {
        Object stated = o.prim().metadata.get("clips");
        if (stated != null && out.isEmpty()) {
          UsdLayer own = o.from().layer();
          for (UsdClips c : UsdClips.of(stated, own, library, path, limits.mostFrames(), notes)) {
            out.add(new Clipped(c, s.stack(), path));
          }
        }
      }
    }
    out.addAll(above);
    return out;
  }

  /** Gives values to attributes that are declared and that nothing stronger has stated. */
  private void fromClips(Clipped c, UsdPrim out) {
    String below = out.path.substring(c.path.length());
    for (UsdAttribute a : List.copyOf(out.attributes.values())) {
      if (!a.speaks()) {
        c.clips
            .attribute(below, a.name(), a.type())
            .ifPresent(v -> out.attributes.put(a.name(), v));
      }
    }
  }

  private Optional<UsdPrim> prim(
      UsdSites.Composed composed, String name, String parentPath, int depth, List<Clipped> above) {
    progress.step(0, 0);
    sites.count(parentPath + "/" + name, ++prims);
    UsdPrim.Specifier specifier = UsdPrim.Specifier.OVER;
    String type = "";
    for (UsdSites.Site s : composed.sites()) {
      for (UsdStack.Opinion o : s.opinions()) {
        specifier = specifier == UsdPrim.Specifier.OVER ? o.prim().specifier : specifier;
        type = type.isEmpty() ? o.prim().type : type;
      }
    }
    UsdPrim out = new UsdPrim(specifier, type, name, parentPath);
    if (specifier != UsdPrim.Specifier.DEF) {
      if (specifier == UsdPrim.Specifier.OVER) {
        notes.add(Note.ignored(out.path, "it is changed here, but nothing defines it"));
      }
      return Optional.empty();
    }
    if (depth > 8 * limits.deepest()) {
      throw new InputError(file, "<" + out.path + ">", "prims are nested too deep", "");
    }
    List<Clipped> clips = clipped(composed.sites(), out.path, above);
    overlayAll(composed.sites(), clips, out);
    if ("false".equals(String.valueOf(out.metadata.get("active")))) {
      return Optional.of(out);
    }
    for (String child : sites.names(composed)) {
      prim(sites.child(composed, child), child, out.path, depth + 1, clips)
          .ifPresent(out.children::add);
    }
    return Optional.of(out);
  }

  /** In order of strength; clips come right behind what their own layers say. */
  private void overlayAll(List<UsdSites.Site> sites, List<Clipped> clips, UsdPrim out) {
    if (!clips.isEmpty()) {
      sites.forEach(s -> s.opinions().forEach(o -> declare(o, out)));
    }
    List<Clipped> left = new ArrayList<>(clips);
    for (int i = 0; i < sites.size(); i++) {
      UsdSites.Site s = sites.get(i);
      s.opinions().forEach(o -> overlay(o, s, out));
      List<UsdSites.Site> weaker = sites.subList(i + 1, sites.size());
      for (Clipped c : List.copyOf(left)) {
        if (weaker.stream().noneMatch(w -> w.stack() == c.stack)) {
          fromClips(c, out);
          left.remove(c);
        }
      }
    }
  }

  /** Makes an attribute known without its value, so that clips can give it one. */
  private static void declare(UsdStack.Opinion o, UsdPrim out) {
    for (UsdAttribute a : o.prim().attributes.values()) {
      out.attributes.putIfAbsent(a.name(), UsdAttribute.fixed(a.name(), a.type(), null));
    }
  }

  private static void overlay(UsdStack.Opinion o, UsdSites.Site site, UsdPrim out) {
    o.prim()
        .metadata
        .forEach(
            (k, v) -> {
              if (!NOT_CARRIED.contains(k)) {
                out.metadata.putIfAbsent(k, v);
              }
            });
    double scale = site.scale() * o.from().scale();
    double offset = site.scale() * o.from().offset() + site.offset();
    for (UsdAttribute a : o.prim().attributes.values()) {
      UsdAttribute stronger = out.attributes.get(a.name());
      if (stronger == null || !stronger.speaks()) {
        UsdAttribute timed = a.retimed(scale, offset);
        boolean typed = stronger != null && !stronger.type().isEmpty();
        out.attributes.put(a.name(), typed ? timed.withType(stronger.type()) : timed);
      }
    }
  }
}
