package flarvo.format.usd;

import flarvo.format.ByteSource;
import flarvo.format.Reach;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Opens layers, each once: text, crates, and what lies in packages. A path inside a layer is taken
 * relative to it; what is not there is looked for by its name beside the first file, since files
 * travel without their folders.
 */
final class UsdLibrary {

  /** Packages inside packages. */
  private static final int DEEPEST_PACKAGE = 4;

  private final Path start;
  private final ReadLimits limits;
  private final Progress progress;
  private final Map<UsdPlace, UsdLayer> layers = new HashMap<>();
  private final Map<String, UsdPackage> packages = new HashMap<>();
  private final Map<Path, ByteSource> files = new HashMap<>();
  private final Set<String> refused = new HashSet<>(); // assets that lie out of reach
  private long bytes;

  UsdLibrary(Path start, ReadLimits limits, Progress progress) {
    this.start = start;
    this.limits = limits;
    this.progress = progress;
  }

  /** Bytes of all files that were opened so far. */
  long size() {
    return bytes;
  }

  UsdLayer first() {
    return open(UsdPlace.of(start), start.toString());
  }

  UsdLayer open(UsdPlace place) {
    return open(place, place.toString());
  }

  private UsdLayer open(UsdPlace place, String name) {
    UsdLayer known = layers.get(place);
    if (known != null) {
      return known;
    }
    if (layers.size() >= limits.mostFiles()) {
      throw new InputError(
          start.toString(),
          "",
          "it is put together from over " + limits.mostFiles() + " files",
          "");
    }
    ByteSource in = bytes(place);
    UsdLayer layer;
    if (UsdPackage.recognises(in)) {
      // A package stands for its first entry.
      UsdPlace inner = inside(place, packageAt(place.toString(), in).first());
      layer = open(inner);
    } else if (in.size() >= 8
        && new String(in.bytes(0, 8), StandardCharsets.ISO_8859_1).equals(UsdCrateTables.MAGIC)) {
      layer = new UsdCrateParser(in, limits, progress).parse();
      layer.place = place;
      layer.name = name;
    } else {
      String text = TextSource.decode(name, in);
      layer = new UsdTextParser(name, text, limits, progress).parse();
      layer.place = place;
      layer.name = name;
    }
    layers.put(place, layer);
    return layer;
  }

  private ByteSource bytes(UsdPlace place) {
    ByteSource in = files.get(place.file());
    if (in == null) {
      boolean first = place.file().equals(UsdPlace.of(start).file());
      in = ByteSource.open(first ? start : place.file(), limits);
      bytes += in.size();
      if (bytes > limits.largestFile()) {
        throw new InputError(
            start.toString(),
            "",
            "its files are larger than " + limits.largestFile() + " bytes",
            "");
      }
      files.put(place.file(), in);
    }
    String at = place.file().toString();
    String rest = place.entry();
    for (int depth = 0; !rest.isEmpty(); depth++) {
      if (depth == DEEPEST_PACKAGE) {
        throw new InputError(
            at, "", "packages are nested deeper than " + DEEPEST_PACKAGE, "Do not trust this file");
      }
      String head = outer(rest);
      ByteSource entry = packageAt(at, in).get(head);
      if (entry == null) {
        throw new InputError(at, "", "there is no '" + head + "' in the package", "");
      }
      in = entry;
      at = at + "[" + head + "]";
      rest = rest.equals(head) ? "" : rest.substring(head.length() + 1, rest.length() - 1);
    }
    return in;
  }

  private UsdPackage packageAt(String at, ByteSource in) {
    UsdPackage p = packages.get(at);
    if (p == null) {
      p = new UsdPackage(in);
      packages.put(at, p);
    }
    return p;
  }

  /** {@code a.usdz[b.usda]}: the part before the bracket. */
  private static String outer(String entry) {
    int bracket = entry.indexOf('[');
    return bracket > 0 && entry.endsWith("]") ? entry.substring(0, bracket) : entry;
  }

  private static UsdPlace inside(UsdPlace place, String entry) {
    return new UsdPlace(place.file(), place.isPackaged() ? nested(place.entry(), entry) : entry);
  }

  /** {@code a[b]} and c: {@code a[b[c]]}. */
  private static String nested(String outer, String inner) {
    int end = outer.length();
    while (end > 0 && outer.charAt(end - 1) == ']') {
      end--;
    }
    return outer.substring(0, end) + "[" + inner + "]" + outer.substring(end);
  }

  /** What variables stand for in expressions: those of the first layer are the strongest. */
  Map<String, Object> variables(UsdLayer own) {
    Map<String, Object> out = new HashMap<>();
    for (UsdLayer l : new UsdLayer[] {own, first()}) {
      if (l.metadata.get("expressionVariables") instanceof Map<?, ?> m) {
        m.forEach((k, v) -> out.put(String.valueOf(k), v));
      }
    }
    return out;
  }

  /**
   * Where an asset path of a layer leads; empty where nothing is there.
   *
   * @param own the layer whose variables count beside those of the first
   */
  Optional<UsdPlace> find(UsdPlace from, UsdLayer own, String asset) {
    return UsdExpression.text(asset, variables(own)).flatMap(a -> find(from, a));
  }

  /** Why nothing was found for an asset path, for a note that begins with the path. */
  String absence(UsdLayer own, String asset) {
    String path = UsdExpression.text(asset, variables(own)).orElse(asset).replace('\\', '/');
    return refused.contains(path) ? Reach.REFUSED : "is not beside the file; send it along";
  }

  private Optional<UsdPlace> find(UsdPlace from, String asset) {
    String path = asset.replace('\\', '/');
    if (path.contains("://")) {
      return Optional.empty();
    }
    return from.isPackaged() ? inPackage(from, path) : onDisk(from, path);
  }

  private Optional<UsdPlace> inPackage(UsdPlace from, String path) {
    // The innermost package's own entries; a path never leads out of it.
    int open = from.entry().lastIndexOf('[');
    String around = "";
    if (open >= 0) {
      String closing = from.entry().substring(from.entry().indexOf(']', open) + 1);
      around = from.entry().substring(0, open) + closing;
    }
    String own = open < 0 ? from.entry() : from.entry().substring(open + 1).replace("]", "");
    int slash = own.lastIndexOf('/');
    String relative = normal((slash < 0 ? "" : own.substring(0, slash + 1)) + path);
    for (String candidate : new String[] {relative, normal(path)}) {
      if (candidate == null) {
        continue;
      }
      String entry = around.isEmpty() ? candidate : nested(around, candidate);
      UsdPlace place = new UsdPlace(from.file(), entry);
      if (isThere(place)) {
        return Optional.of(place);
      }
    }
    return Optional.empty();
  }

  private boolean isThere(UsdPlace place) {
    try {
      bytes(place);
      return true;
    } catch (InputError none) {
      return false; // what is nowhere is reported by the caller
    }
  }

  /** Without {@code .} and {@code ..}; null where it climbs out. */
  private static String normal(String path) {
    java.util.ArrayDeque<String> parts = new java.util.ArrayDeque<>();
    for (String p : path.split("/")) {
      if (p.equals("..")) {
        if (parts.pollLast() == null) {
          return null;
        }
      } else if (!p.isEmpty() && !p.equals(".")) {
        parts.addLast(p);
      }
    }
    return String.join("/", parts);
  }

  private Optional<UsdPlace> onDisk(UsdPlace from, String asset) {
    String path = outer(asset);
    String entry =
        path.length() < asset.length()
            ? asset.substring(path.length() + 1, asset.length() - 1)
            : "";
    try {
      Path name = Path.of(path).getFileName();
      Path beside = from.file().getParent().resolve(path).normalize();
      Path here = UsdPlace.of(start).file();
      for (Path p : new Path[] {beside, name == null ? here : here.resolveSibling(name)}) {
        if (!limits.reach().allows(start, p)) {
          refused.add(asset);
        } else if (Files.isRegularFile(p)) {
          refused.remove(asset);
          return Optional.of(new UsdPlace(p.toRealPath(), entry));
        }
      }
    } catch (InvalidPathException | IOException e) {
      return Optional.empty(); // no path at all
    }
    return Optional.empty();
  }
}
