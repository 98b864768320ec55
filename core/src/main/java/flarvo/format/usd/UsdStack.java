package flarvo.format.usd;

import flarvo.report.InputError;
import flarvo.report.Note;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A layer with its sublayers, strongest first; one name space. */
final class UsdStack {

  /**
   * @param scale of the layer's time codes to those of the stack's first layer
   * @param offset added after scaling
   */
  record Entry(UsdLayer layer, double scale, double offset) {}

  /** What one layer says of a prim, and how its time runs in the stack. */
  record Opinion(UsdPrim prim, Entry from) {}

  final List<Entry> entries = new ArrayList<>();
  private final UsdLibrary library;
  private final List<Note> notes;
  private final Map<String, String> relocates;

  UsdStack(UsdLayer first, UsdLibrary library, List<Note> notes) {
    this.library = library;
    this.notes = notes;
    add(first, 1, 0, new ArrayDeque<>());
    relocates = moved();
  }

  UsdLayer first() {
    return entries.get(0).layer;
  }

  private void add(UsdLayer layer, double scale, double offset, Deque<UsdLayer> above) {
    if (above.contains(layer)) {
      throw new InputError(
          layer.name, "subLayers", "the layer is a sublayer of itself", "Request a new copy");
    }
    entries.add(new Entry(layer, scale, offset));
    if (!(layer.metadata.get("subLayers") instanceof List<?> sublayers)) {
      return;
    }
    above.push(layer);
    for (Object o : sublayers) {
      if (!(o instanceof UsdAsset asset)) {
        continue;
      }
      Optional<UsdPlace> place = library.find(layer.place, layer, asset.path());
      if (place.isEmpty()) {
        notes.add(
            Note.ignored("sublayer " + asset.path(), "it " + library.absence(layer, asset.path())));
        continue;
      }
      UsdLayer sub = library.open(place.get());
      double own = positive(asset.scale()) * layer.codesPerSecond() / sub.codesPerSecond();
      add(sub, scale * own, scale * asset.offset() + offset, above);
    }
    above.pop();
  }

  private static double positive(double scale) {
    return scale > 0 && Double.isFinite(scale) ? scale : 1;
  }

  /** Where prims that come from elsewhere are moved to; an empty path for those taken away. */
  Map<String, String> relocates() {
    return relocates;
  }

  private Map<String, String> moved() {
    Map<String, String> out = new LinkedHashMap<>();
    for (Entry e : entries) {
      for (String key : new String[] {"relocates", "layerRelocates"}) {
        if (e.layer.metadata.get(key) instanceof Map<?, ?> m) {
          m.forEach((from, to) -> out.putIfAbsent(absolute(from), absolute(to)));
        }
      }
    }
    return out;
  }

  private static String absolute(Object path) {
    String p = String.valueOf(path);
    return p.isEmpty() || p.startsWith("/") ? p : "/" + p;
  }

  List<Opinion> at(String path) {
    List<Opinion> out = new ArrayList<>();
    for (Entry e : entries) {
      UsdPrim p = e.layer.at(path);
      if (p != null) {
        out.add(new Opinion(p, e));
      }
    }
    return out;
  }

  /** Absolute path of the prim that stands for the layer; empty where none is named. */
  String defaultPrim() {
    Object named = first().metadata.get("defaultPrim");
    if (named instanceof String s && !s.isEmpty()) {
      return s.startsWith("/") ? s : "/" + s;
    }
    return "";
  }
}
