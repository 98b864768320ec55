package flarvo.format.usd;

import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.work.Progress;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Finds the places in layers whose opinions count for a prim, the strongest first, and follows what
 * they point to.
 */
final class UsdSites {

  /** Where an arc led; the way there is kept, so that a circle is seen. */
  record Arc(UsdStack stack, String path, UsdStack fromStack, String from, Arc before, int depth) {}

  /**
   * A place whose opinions count for a prim.
   *
   * @param space the innermost with relocates; null for none
   * @param scale of the stack's time codes to the scene's; {@code offset} is added after it
   */
  record Site(
      UsdStack stack,
      List<UsdStack.Opinion> opinions,
      String path,
      double scale,
      double offset,
      Arc arc,
      Space space) {}

  /**
   * A name space with relocates: that of the first layers, or what an arc brought in. What it moves
   * are its own prims and all that its arcs brought, wherever that hangs in the scene.
   */
  private static final class Space {
    private final UsdStack stack;
    private final Map<String, String> relocates;
    private final double scale;
    private final double offset;
    private final Arc arc;
    private final Space outer; // null for none

    Space(UsdStack stack, double scale, double offset, Arc arc, Space outer) {
      this.stack = stack;
      this.relocates = stack.relocates();
      this.scale = scale;
      this.offset = offset;
      this.arc = arc;
      this.outer = outer;
    }

    /** Whether a place is of its own layers, and not behind an arc. */
    boolean owns(Site s) {
      return s.space == this && depth(s.arc) == depth(arc);
    }

    private static int depth(Arc a) {
      return a == null ? 0 : a.depth;
    }
  }

  /** What counts for a prim, and what it is called in each name space that has relocates. */
  static final class Composed {
    private final List<Site> sites = new ArrayList<>();
    private final Map<Space, String> paths = new LinkedHashMap<>();

    /** The strongest first. */
    List<Site> sites() {
      return sites;
    }
  }

  /** A relocate that is being followed. */
  private record Move(Space space, String source) {}

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
  private final Deque<Move> moving = new ArrayDeque<>(); // few
  private final UsdStack root;
  private final Space rootSpace; // null without relocates
  private int sites;

  UsdSites(
      UsdLayer first,
      UsdLibrary library,
      String file,
      ReadLimits limits,
      Progress progress,
      List<Note> notes) {
    this.library = library;
    this.file = file;
    this.limits = limits;
    this.progress = progress;
    this.notes = notes;
    root = stack(first);
    rootSpace = root.relocates().isEmpty() ? null : new Space(root, 1, 0, null, null);
  }

  private UsdStack stack(UsdLayer layer) {
    UsdStack known = stacks.get(layer);
    if (known == null) {
      known = new UsdStack(layer, library, notes);
      stacks.put(layer, known);
    }
    return known;
  }

  /** Names of the prims at the top. */
  Set<String> names() {
    Set<String> names = new LinkedHashSet<>();
    for (int i = root.entries.size() - 1; i >= 0; i--) {
      root.entries.get(i).layer().roots.forEach(p -> names.add(p.name));
    }
    if (rootSpace != null) {
      names.removeIf(n -> rootSpace.relocates.containsKey("/" + n));
      arriving(rootSpace, "/", names);
    }
    return names;
  }

  /** Names of what hangs in a prim, without what is moved away and with what is moved here. */
  Set<String> names(Composed prim) {
    Set<String> names = new LinkedHashSet<>();
    for (int i = prim.sites.size() - 1; i >= 0; i--) {
      Site s = prim.sites.get(i);
      for (int k = s.opinions.size() - 1; k >= 0; k--) {
        for (UsdPrim child : s.opinions.get(k).prim().children) {
          if (!isMovedAway(s.space, s, child.name, prim.paths, null)) {
            names.add(child.name);
          }
        }
      }
    }
    prim.paths.forEach(
        (space, path) -> {
          Set<String> here = new LinkedHashSet<>();
          arriving(space, path, here);
          here.removeIf(n -> isMovedAway(space.outer, null, n, prim.paths, null));
          names.addAll(here);
        });
    return names;
  }

  private static void arriving(Space space, String parent, Set<String> names) {
    space.relocates.values().stream()
        .filter(to -> !to.isEmpty() && parentOf(to).equals(parent))
        .forEach(to -> names.add(nameOf(to)));
  }

  /**
   * Whether a child is moved away from a prim. What the layers say of a place that something else
   * is moved to is meant for that.
   *
   * @param from the innermost name space that may move it
   * @param site that speaks of it; null where it was moved here by a name space further in
   * @param paths of the prim
   * @param except a name space that is being asked for what it moves; null for none
   */
  private static boolean isMovedAway(
      Space from, Site site, String child, Map<Space, String> paths, Space except) {
    for (Space s = from; s != null; s = s.outer) {
      String path = paths.get(s);
      if (s != except && path != null && s.relocates.containsKey(path + "/" + child)) {
        return !(site != null && s.owns(site) && s.relocates.containsValue(path + "/" + child));
      }
    }
    return false;
  }

  private static String parentOf(String path) {
    int slash = path.lastIndexOf('/');
    return slash <= 0 ? "/" : path.substring(0, slash);
  }

  private static String nameOf(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  /** What counts for a prim at the top of the scene. */
  Composed top(String name) {
    Composed out = new Composed();
    String path = "/" + name;
    begin(new Site(root, root.at(path), path, 1, 0, null, rootSpace), rootSpace, out);
    return out;
  }

  private void begin(Site site, Space space, Composed out) {
    if (space != null) {
      out.paths.put(space, site.path);
    }
    List<Site> late = new ArrayList<>();
    expand(site, out, late);
    out.sites.addAll(late);
    if (space != null) {
      arrived(space, out);
    }
  }

  /** What counts for a child of a prim, with what is moved to it from elsewhere. */
  Composed child(Composed parent, String name) {
    return child(parent, name, null);
  }

  private Composed child(Composed parent, String name, Space asked) {
    Composed out = new Composed();
    parent.paths.forEach((space, path) -> out.paths.put(space, path + "/" + name));
    Map<Space, Integer> last = new HashMap<>();
    for (int i = 0; i < parent.sites.size() && !parent.paths.isEmpty(); i++) {
      for (Space s = parent.sites.get(i).space; s != null; s = s.outer) {
        last.put(s, i);
      }
    }
    List<Site> late = new ArrayList<>();
    for (int i = 0; i < parent.sites.size(); i++) {
      Site s = parent.sites.get(i);
      List<UsdStack.Opinion> opinions = new ArrayList<>();
      for (UsdStack.Opinion o : s.opinions) {
        UsdPrim p = o.prim().child(name);
        if (p != null) {
          opinions.add(new UsdStack.Opinion(p, o.from()));
        }
      }
      if (!opinions.isEmpty() && !isMovedAway(s.space, s, name, parent.paths, asked)) {
        String path = s.path + "/" + name;
        expand(new Site(s.stack, opinions, path, s.scale, s.offset, s.arc, s.space), out, late);
      }
      for (Space space : parent.paths.keySet()) {
        if (last.getOrDefault(space, -1) == i
            && !isMovedAway(space.outer, null, name, parent.paths, asked)) {
          arrived(space, out);
        }
      }
    }
    out.sites.addAll(late);
    return out;
  }

  /**
   * What its own layers say of the place that something came from counts no more; all else does.
   */
  private void arrived(Space space, Composed into) {
    String path = into.paths.get(space);
    for (Map.Entry<String, String> r : space.relocates.entrySet()) {
      if (!r.getValue().equals(path)) {
        continue;
      }
      String source = r.getKey();
      if (source.chars().filter(ch -> ch == '/').count() > 8L * limits.deepest()) {
        throw new InputError(file, "<" + path + ">", "it is moved here from too deep a place", "");
      }
      Move move = new Move(space, source);
      if (moving.contains(move)) {
        throw new InputError(file, "<" + path + ">", "its relocates run in a circle", "");
      }
      moving.push(move);
      Composed from = within(space, source);
      from.sites.stream()
          .filter(s -> !(space.owns(s) && s.path.equals(source)))
          .forEach(into.sites::add);
      from.paths.forEach(into.paths::putIfAbsent);
      moving.pop();
    }
  }

  /** What counts for a path of a name space before anything is moved away from it. */
  private Composed within(Space space, String path) {
    String parent = parentOf(path);
    if (!parent.equals("/")) {
      return child(within(space, parent), nameOf(path), space);
    }
    Composed out = new Composed();
    begin(
        new Site(
            space.stack, space.stack.at(path), path, space.scale, space.offset, space.arc, space),
        space,
        out);
    return out;
  }

  private void expand(Site site, Composed into, List<Site> late) {
    progress.step(0, 0);
    count(site.path, ++sites / SITES_A_PRIM);
    into.sites.add(site);
    for (Object path : listed(site, "inherits")) {
      internal(site, String.valueOf(path), into).ifPresent(s -> expand(s, into, late));
    }
    variants(site, into, late);
    for (String kind : new String[] {"references", "payload"}) {
      for (Object target : listed(site, kind)) {
        UsdAsset asset =
            target instanceof UsdAsset a ? a : new UsdAsset("", String.valueOf(target));
        (asset.path().isEmpty() ? internal(site, asset, into) : external(site, asset, into))
            .ifPresent(s -> expand(s, into, late));
      }
    }
    for (Object path : listed(site, "specializes")) {
      Composed more = new Composed();
      internal(site, String.valueOf(path), more).ifPresent(s -> expand(s, more, late));
      late.addAll(more.sites);
      into.paths.putAll(more.paths);
    }
  }

  /** A few hundred bytes can refer to each other so often that nothing would ever end. */
  void count(String path, int made) {
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

  private void variants(Site site, Composed into, List<Site> late) {
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
            new Site(site.stack, bodies, site.path, site.scale, site.offset, site.arc, site.space),
            into,
            late);
      }
    }
  }

  private String selection(Composed into, String set) {
    String chosen = null;
    if (!moving.isEmpty()) {
      // A moved prim is composed within its own name space; what refers to that still chooses.
      Space space = moving.element().space;
      String path = into.paths.get(space);
      for (Arc a = path == null ? null : space.arc;
          a != null && path.startsWith(a.path);
          a = a.before) {
        path = a.from + path.substring(a.path.length());
        String stronger = selection(a.fromStack.at(path), a.fromStack, set);
        chosen = stronger == null ? chosen : stronger;
      }
    }
    for (int i = 0; i < into.sites.size() && chosen == null; i++) {
      chosen = selection(into.sites.get(i).opinions, into.sites.get(i).stack, set);
    }
    return chosen;
  }

  private String selection(List<UsdStack.Opinion> opinions, UsdStack of, String set) {
    for (UsdStack.Opinion o : opinions) {
      if (o.prim().metadata.get("variants") instanceof Map<?, ?> m
          && m.get(set) instanceof String choice
          && !choice.isEmpty()) {
        return UsdExpression.text(choice, library.variables(of.first())).orElse(choice);
      }
    }
    return null;
  }

  private Optional<Site> internal(Site from, String path, Composed into) {
    return internal(from, new UsdAsset("", path), into);
  }

  private Optional<Site> internal(Site from, UsdAsset asset, Composed into) {
    String path = asset.prim().isEmpty() ? from.stack.defaultPrim() : asset.prim();
    return target(from, from.stack, path, positive(asset.scale()), asset, into);
  }

  private Optional<Site> external(Site from, UsdAsset asset, Composed into) {
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
    return target(from, stack, path, scale, asset, into);
  }

  private Optional<Site> target(
      Site from, UsdStack stack, String path, double scale, UsdAsset asset, Composed into) {
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
    double whole = from.scale * scale;
    double offset = from.scale * asset.offset() + from.offset;
    Arc arc = new Arc(stack, path, from.stack, from.path, from.arc, depth);
    Space space = from.space;
    if (!stack.relocates().isEmpty()) {
      space = new Space(stack, whole, offset, arc, from.space);
      into.paths.put(space, path);
    }
    return Optional.of(new Site(stack, opinions, path, whole, offset, arc, space));
  }

  private static double positive(double scale) {
    return scale > 0 && Double.isFinite(scale) ? scale : 1;
  }
}
