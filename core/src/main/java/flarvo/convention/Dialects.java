package flarvo.convention;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.report.InputError;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The dialects known here: the shipped ones, and a studio's own from JSON files. */
public final class Dialects {

  private static final long LARGEST_FILE = 1 << 20;

  private final Map<String, Dialect> byName = new LinkedHashMap<>();

  private Dialects(List<Dialect> list) {
    for (Dialect d : list) {
      byName.put(d.name(), d);
    }
  }

  /** Only what ships with the program; read once. */
  public static Dialects shipped() {
    return Shipped.DIALECTS;
  }

  /** Read by the first who asks; others wait for it. */
  private static final class Shipped {
    static final Dialects DIALECTS = readShipped();
  }

  private static Dialects readShipped() {
    try (InputStream in = Dialects.class.getResourceAsStream("dialects.json")) {
      List<Dialect> list = new ArrayList<>();
      for (JsonNode n : new ObjectMapper().readTree(in)) {
        list.add(DialectJson.read(n, "shipped dialects"));
      }
      return new Dialects(list);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Every dialect, in the order in which they are offered. */
  public List<Dialect> all() {
    return List.copyOf(byName.values());
  }

  /** The dialect of that name, if there is one. */
  public Optional<Dialect> find(String name) {
    return Optional.ofNullable(byName.get(name));
  }

  /**
   * A dialect by its name, or by the path of its JSON file.
   *
   * @throws InputError when there is none; the error lists the names
   */
  public Dialect get(String nameOrFile) {
    Dialect known =
        nameOrFile.equals(Dialect.CANONICAL.name()) ? Dialect.CANONICAL : byName.get(nameOrFile);
    if (known != null) {
      return known;
    }
    if (nameOrFile.endsWith(".json")) {
      return fromFile(Path.of(nameOrFile));
    }
    throw InputError.words(
        "there is no dialect '" + nameOrFile + "'",
        "Known are: canonical, "
            + String.join(", ", byName.keySet())
            + "; or give a dialect's JSON file");
  }

  private static Dialect fromFile(Path file) {
    try {
      if (Files.size(file) > LARGEST_FILE) {
        throw new InputError(file.toString(), "", "too large for a dialect", "");
      }
      return DialectJson.read(Files.readString(file), file.toString());
    } catch (IOException e) {
      throw new InputError(file.toString(), "", "this dialect cannot be read", "Check the path", e);
    }
  }
}
