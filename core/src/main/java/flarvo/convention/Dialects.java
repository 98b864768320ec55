package flarvo.convention;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.report.InputError;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.DirectoryIteratorException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** The dialects known here: the shipped ones, and a studio's own from JSON files. */
public final class Dialects {

  /** Of a dialect's file. */
  public static final String ENDING = ".json";

  private static final long LARGEST_FILE = 1 << 20;

  private final Map<String, Dialect> byName = new LinkedHashMap<>();
  private final Map<String, InputError> unreadable = new TreeMap<>();

  private Dialects(List<Dialect> list) {
    for (Dialect d : list) {
      byName.put(d.name(), d);
    }
  }

  /** Only what ships with the program; read once. */
  public static Dialects shipped() {
    return Shipped.DIALECTS;
  }

  /**
   * The shipped ones, and a studio's own after them: the files of a folder, each called like its
   * dialect. A file that cannot be read is left out until its dialect is asked for.
   *
   * @param folder need not exist
   */
  public static Dialects with(Path folder) {
    if (!Files.isDirectory(folder)) {
      return shipped();
    }
    Dialects all = new Dialects(shipped().all());
    List<Path> files = new ArrayList<>();
    try (DirectoryStream<Path> in = Files.newDirectoryStream(folder, "*" + ENDING)) {
      in.forEach(files::add);
    } catch (IOException | DirectoryIteratorException e) {
      InputError error =
          new InputError(
              folder.toString(), "", "this folder cannot be read", "Check its rights", e);
      all.unreadable.put(folder.getFileName().toString(), error);
      return all;
    }
    files.sort(null);
    for (Path f : files) {
      String name = f.getFileName().toString();
      name = name.substring(0, name.length() - ENDING.length());
      try {
        Dialect d = fromFile(f);
        if (!d.name().equals(name) || shipped().find(name).isPresent()) {
          throw new InputError(
              f.toString(),
              "name",
              shipped().find(name).isPresent()
                  ? "a shipped dialect is called " + name
                  : "the file is not called like its dialect, " + d.name(),
              "Rename both");
        }
        all.byName.put(name, d);
      } catch (InputError e) {
        all.unreadable.put(name, e);
      }
    }
    return all;
  }

  /** Of the studio's own, those that cannot be read, by the names of their files. */
  public Map<String, InputError> unreadable() {
    return Collections.unmodifiableMap(unreadable);
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
    if (unreadable.containsKey(nameOrFile)) {
      throw unreadable.get(nameOrFile);
    }
    if (nameOrFile.endsWith(ENDING)) {
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
