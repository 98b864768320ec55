package flarvo.format.usd;

import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
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

  /** Where an arc led; the way there is kept, so that a circle is seen. */
  private record Arc(UsdStack stack, String path, Arc before, int depth) {}

  /**
   * A place whose opinions count for a prim.
   *
   * @param scale of the stack's time codes to the scene's; {@code offset} is added after it
   */
  private record Site(
      UsdStack stack,
      List<UsdStack.Opinion> opinions,
      String path,
      double scale,
      double offset,
      Arc arc) {}

  /** Prims that any file may be composed to. */
  private static final int FEW_PRIMS = 250_000;

  /** More of them in proportion to what the files hold; scenes with many instances come to one. */
  private static final long PRIMS_A_BYTE = 4;

  /** Places whose opinions count, for each prim. */
  private static final int SITES_A_PRIM = 4;

  private final UsdLibrary library;
  private final String file;
  private final ReadLimits limits;
  private final Progress progress;
  private final List<Note> notes;
  private final Map<UsdLayer, UsdStack> stacks = new LinkedHashMap<>();
  private final Set<String> missing = new LinkedHashSet<>();
  private int sites;
  private int prims;
  private final Set<String> moving = new LinkedHashSet<>();
  private UsdStack root;
  private Map<String, String> relocates = Map.of();

  UsdComposer(
      UsdLibrary library, String file, ReadLimits limits, Progress progress, List<Note> notes) {
    this.library = library;
    this.file = file;
    this.limits = limits;
    this.progress = progress;
    this.notes = notes;
  }

  UsdLayer compose(UsdLayer first) {
    UsdStack stack = stack(first);
    root = stack;
    relocates = stack.relocates();
    UsdLayer out = new UsdLayer();
    out.place = first.place;
    out.name = first.name;
    out.metadata.putAll(first.metadata);
    out.metadata.remove("subLayers");
    Set<String> names = new LinkedHashSet<>();
    for (int i = stack.entries.size() - 1; i >= 0; i--) {
      stack.entries.get(i).layer().roots.forEach(p -> names.add(p.name));
    }
    for (String name : relocated("/", names)) {
      prim(composed("/" + name), name, "/", 1, List.of()).ifPresent(out.roots::add);
    }
    return out;
  }

  /** Names of children, without those that are moved away and with those that are moved here. */
  private Set<String> relocated(String parent, Set<String> names) {
    if (relocates.isEmpty()) {
      return names;
    }
    Set<String> out = new LinkedHashSet<>(names);
    relocates.keySet().stream()
        .filter(p -> parentOf(p).equals(parent))
        .forEach(p -> out.remove(nameOf(p)));
    relocates.values().stream()
        .filter(p -> !p.isEmpty() && parentOf(p).equals(parent))
        .forEach(p -> out.add(nameOf(p)));
    return out;
  }

  private static String parentOf(String path) {
    int slash = path.lastIndexOf('/');
    return slash <= 0 ? "/" : path.substring(0, slash);
  }

  private static String nameOf(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  /** The places whose opinions count for a prim of the first layer's name space. */
  private List<Site> composed(String path) {
    String parent = parentOf(path);
    if (!parent.equals("/")) {
      return childSites(composed(parent), parent, nameOf(path));
    }
    List<Site> all = new ArrayList<>();
    expandAll(List.of(new Site(root, root.at(path), path, 1, 0, null)), all);
    moved(path, all);
    return all;
  }

  /** Those of a child, with what was moved to it from elsewhere. */
  private List<Site> childSites(List<Site> sites, String parent, String child) {
    List<Site> own = new ArrayList<>();
    for (Site s : sites) {
      List<UsdStack.Opinion> opinions = new ArrayList<>();
      for (UsdStack.Opinion o : s.opinions) {
        UsdPrim p = o.prim().child(child);
        if (p != null) {
          opinions.add(new UsdStack.Opinion(p, o.from()));
        }
      }
      if (!opinions.isEmpty()) {
        own.add(new Site(s.stack, opinions, s.path + "/" + child, s.scale, s.offset, s.arc));
      }
    }
    List<Site> all = new ArrayList<>();
    expandAll(own, all);
    moved(parent + "/" + child, all);
    return all;
  }

  /** What the first layers say of the place it came from counts no more; all else does. */
  private void moved(String path, List<Site> into) {
    for (Map.Entry<String, String> r : relocates.entrySet()) {
      if (r.getValue().equals(path)) {
        String source = r.getKey();
        if (!moving.add(source)) {
          throw new InputError(file, "<" + path + ">", "its relocates run in a circle", "");
        }
        composed(source).stream()
            .filter(s -> s.stack != root || !s.path.equals(source))
            .forEach(into::add);
        moving.remove(source);
      }
    }
  }

  private UsdStack stack(UsdLayer layer) {
    UsdStack known = stacks.get(layer);
    if (known == null) {
      known = new UsdStack(layer, library, notes);
      if (root != null && !known.relocates().isEmpty()) {
        notes.add(
            Note.ignored(layer.name, "its relocates are not followed where it is referenced"));
      }
      stacks.put(layer, known);
    }
    return known;
  }

  /**
   * Clips that give values to a prim and to what is below it.
   *
   * @param stack whose own opinions are stronger than the clips
   * @param path of the prim that states them
   */
  private record Clipped(UsdClips clips, UsdStack stack, String path) {}

  private List<Clipped> clipped(List<Site> sites, String path, List<Clipped> above) {
    List<Clipped> out = new ArrayList<>();
    for (Site s : sites) {
      for (UsdStack.Opinion o : s.opinions) {
        Object stated = o.prim().metadata.get("clips");
        if (stated != null && out.isEmpty()) {
          UsdLayer own = o.from().layer();
          for (UsdClips c : UsdClips.of(stated, own, library, path, limits.mostFrames(), notes)) {
            out.add(new Clipped(c, s.stack, path));
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
      List<Site> sites, String name, String parentPath, int depth, List<Clipped> above) {
    progress.step(0, 0);
    count(parentPath + "/" + name, ++prims);
    UsdPrim.Specifier specifier = UsdPrim.Specifier.OVER;
    String type = "";
    for (Site s : sites) {
      for (UsdStack.Opinion o : s.opinions) {
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
    Set<String> children = new LinkedHashSet<>();
    for (int i = sites.size() - 1; i >= 0; i--) {
      Site s = sites.get(i);
      for (int k = s.opinions.size() - 1; k >= 0; k--) {
        s.opinions.get(k).prim().children.forEach(c -> children.add(c.name));
      }
    }
    List<Clipped> clips = clipped(sites, out.path, above);
    overlayAll(sites, clips, out);
    if ("false".equals(String.valueOf(out.metadata.get("active")))) {
      return Optional.of(out);
    }
    for (String child : relocated(out.path, children)) {
      prim(childSites(sites, out.path, child), child, out.path, depth + 1, clips)
          .ifPresent(out.children::add);
    }
    return Optional.of(out);
  }

  /** In order of strength; clips come right behind what their own layers say. */
  private void overlayAll(List<Site> sites, List<Clipped> clips, UsdPrim out) {
    if (!clips.isEmpty()) {
      sites.forEach(s -> s.opinions.forEach(o -> declare(o, out)));
    }
    List<Clipped> left = new ArrayList<>(clips);
    for (int i = 0; i < sites.size(); i++) {
      Site s = sites.get(i);
      s.opinions.forEach(o -> overlay(o, s, out));
      List<Site> weaker = sites.subList(i + 1, sites.size());
      for (Clipped c : List.copyOf(left)) {
        if (weaker.stream().noneMatch(w -> w.stack == c.stack)) {
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

  private static void overlay(UsdStack.Opinion o, Site site, UsdPrim out) {
    o.prim()
        .metadata
        .forEach(
            (k, v) -> {
              if (!NOT_CARRIED.contains(k)) {
                out.metadata.putIfAbsent(k, v);
              }
            });
    double scale = site.scale * o.from().scale();
    double offset = site.scale * o.from().offset() + site.offset;
    for (UsdAttribute a : o.prim().attributes.values()) {
      UsdAttribute stronger = out.attributes.get(a.name());
      if (stronger == null || !stronger.speaks()) {
        UsdAttribute timed = a.retimed(scale, offset);
        boolean typed = stronger != null && !stronger.type().isEmpty();
        out.attributes.put(a.name(), typed ? timed.withType(stronger.type()) : timed);
      }
    }
  }

  private void expandAll(List<Site> own, List<Site> into) {
    List<Site> late = new ArrayList<>();
    for (Site s : own) {
      expand(s, into, late);
    }
    into.addAll(late);
  }

  private void expand(Site site, List<Site> into, List<Site> late) {
    progress.step(0, 0);
    count(site.path, ++sites / SITES_A_PRIM);
    into.add(site);
    for (Object path : listed(site, "inherits")) {
      internal(site, String.valueOf(path)).ifPresent(s -> expand(s, into, late));
    }
    variants(site, into, late);
    for (String kind : new String[] {"references", "payload"}) {
      for (Object target : listed(site, kind)) {
        UsdAsset asset =
            target instanceof UsdAsset a ? a : new UsdAsset("", String.valueOf(target));
        (asset.path().isEmpty() ? internal(site, asset) : external(site, asset))
            .ifPresent(s -> expand(s, into, late));
      }
    }
    for (Object path : listed(site, "specializes")) {
      List<Site> more = new ArrayList<>();
      internal(site, String.valueOf(path)).ifPresent(s -> expand(s, more, late));
      late.addAll(more);
    }
  }

  /** A few hundred bytes can refer to each other so often that nothing would ever end. */
  private void count(String path, int made) {
    if (made > Math.min(limits.mostObjects(), Math.max(FEW_PRIMS, PRIMS_A_BYTE * library.size()))) {
      throw new InputError(
          file,
          "<" + path + ">",
          "its references multiply to over " + made + " prims, far more than its files hold",
          "Simplify the file, or send it flattened");
    }
  }

  private static List<Object> listed(Site site, String kind) {
    List<UsdListOp> ops = new ArrayList<>();
    for (UsdStack.Opinion o : site.opinions) {
      if (o.prim().metadata.get(kind) instanceof UsdListOp op) {
        ops.add(op);
      }
    }
    return ops.isEmpty() ? List.of() : UsdListOp.compose(ops);
  }

  private void variants(Site site, List<Site> into, List<Site> late) {
    Set<String> sets = new LinkedHashSet<>();
    site.opinions.forEach(o -> sets.addAll(o.prim().variantSets().keySet()));
    for (String set : sets) {
      String choice = selection(into, set);
      List<UsdStack.Opinion> bodies = new ArrayList<>();
      for (UsdStack.Opinion o : site.opinions) {
        UsdPrim body =
            o.prim().variantSets().getOrDefault(set, Map.of()).get(choice == null ? "" : choice);
        if (body != null) {
          bodies.add(new UsdStack.Opinion(body, o.from()));
        }
      }
      if (choice == null) {
        notes.add(Note.ignored(site.path, "no variant of '" + set + "' is chosen"));
      } else if (!bodies.isEmpty()) {
        expand(
            new Site(site.stack, bodies, site.path, site.scale, site.offset, site.arc), into, late);
      }
    }
  }

  private String selection(List<Site> sites, String set) {
    for (Site s : sites) {
      for (UsdStack.Opinion o : s.opinions) {
        if (o.prim().metadata.get("variants") instanceof Map<?, ?> m
            && m.get(set) instanceof String choice
            && !choice.isEmpty()) {
          return UsdExpression.text(choice, library.variables(s.stack.first())).orElse(choice);
        }
      }
    }
    return null;
  }

  private Optional<Site> internal(Site from, String path) {
    return internal(from, new UsdAsset("", path));
  }

  private Optional<Site> internal(Site from, UsdAsset asset) {
    String path = asset.prim().isEmpty() ? from.stack.defaultPrim() : asset.prim();
    return target(from, from.stack, path, asset.offset(), positive(asset.scale()), asset);
  }

  private Optional<Site> external(Site from, UsdAsset asset) {
    UsdPlace anchor = from.opinions.get(0).from().layer().place;
    Optional<UsdPlace> place = library.find(anchor, from.stack.first(), asset.path());
    if (place.isEmpty()) {
      if (missing.add(asset.path())) {
        notes.add(
            Note.ignored(
                from.path,
                "'" + asset.path() + "' " + library.absence(from.stack.first(), asset.path())));
      }
      return Optional.empty();
    }
    UsdStack stack = stack(library.open(place.get()));
    double scale =
        positive(asset.scale())
            * from.stack.first().codesPerSecond()
            / stack.first().codesPerSecond();
    String path = asset.prim().isEmpty() ? stack.defaultPrim() : asset.prim();
    return target(from, stack, path, asset.offset(), scale, asset);
  }

  private Optional<Site> target(
      Site from, UsdStack stack, String path, double offset, double scale, UsdAsset asset) {
    for (Arc a = from.arc; a != null; a = a.before) {
      if (a.stack == stack && a.path.equals(path)) {
        throw new InputError(
            file, "<" + from.path + ">", "it refers to itself through <" + path + ">", "");
      }
    }
    int depth = from.arc == null ? 1 : from.arc.depth + 1;
    if (depth > limits.deepest()) {
      throw new InputError(file, "<" + from.path + ">", "references are nested too deep", "");
    }
    List<UsdStack.Opinion> opinions = path.isEmpty() ? List.of() : stack.at(path);
    if (opinions.isEmpty()) {
      String what = path.isEmpty() ? "no prim stands for the whole" : "there is no <" + path + ">";
      notes.add(
          Note.ignored(from.path, what + (asset.path().isEmpty() ? "" : " in " + asset.path())));
      return Optional.empty();
    }
    return Optional.of(
        new Site(
            stack,
            opinions,
            path,
            from.scale * scale,
            from.scale * offset + from.offset,
            new Arc(stack, path, from.arc, depth)));
  }

  private static double positive(double scale) {
    return scale > 0 && Double.isFinite(scale) ? scale : 1;
  }
}
