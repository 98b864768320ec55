package flarvo.format.gltf;

import de.javagl.jgltf.impl.v2.AccessorSparse;
import de.javagl.jgltf.impl.v2.GlTF;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.GltfModels;
import de.javagl.jgltf.model.io.GltfAsset;
import de.javagl.jgltf.model.io.GltfAssetReader;
import de.javagl.jgltf.model.io.GltfReference;
import flarvo.format.ByteSource;
import flarvo.format.Reach;
import flarvo.format.ReadLimits;
import flarvo.report.InputError;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.URLDecoder;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Base64;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.stream.Collectors;

/**
 * Parses a file through the library without letting it fetch anything: what a file refers to is
 * read here, from beside it only. The library answers garbage with whatever exception comes first;
 * each becomes one clear error.
 */
final class GltfFile {

  private static final byte[] MAGIC = {'g', 'l', 'T', 'F'};
  private static final int HEADER = 12;

  /** Held, for a logger that nobody holds forgets its level. */
  private static final Logger LIBRARY = Logger.getLogger("de.javagl.jgltf");

  static {
    LIBRARY.setLevel(Level.OFF); // what it warns of is checked and said here
  }

  private static final int CHUNK_HEADER = 8;
  private static final int JSON_CHUNK = 0x4E4F534A;

  private GltfFile() {}

  static boolean isBinary(byte[] head) {
    return head.length >= 4 && java.util.Arrays.equals(head, 0, 4, MAGIC, 0, 4);
  }

  static GltfContents read(Path path, ReadLimits limits) {
    ByteSource in = ByteSource.open(path, limits);
    byte[] bytes = in.bytes(0, in.size());
    if (isBinary(bytes)) {
      checkChunks(in);
    }
    try {
      GltfAsset asset =
          new GltfAssetReader().readWithoutReferences(new ByteArrayInputStream(bytes));
      GlTF stated = GltfGuard.check(asset, bytes.length, limits, path.toString());
      Map<Integer, AccessorSparse> sparse = GltfNumbers.takeSparse(stated);
      Set<Integer> skinned = GltfContents.takeSkins(stated);
      GltfZeros.fill(stated, limits, path.toString());
      for (GltfReference r : asset.getReferences()) {
        r.getTarget().accept(resolve(path, r.getUri(), limits));
      }
      GltfModel model = GltfModels.create(asset);
      return new GltfContents(
          stated,
          model,
          new GltfNumbers(path.toString(), model, sparse),
          skinned.stream().map(model.getNodeModels()::get).collect(Collectors.toSet()));
    } catch (IOException | RuntimeException e) {
      if (e instanceof InputError known) {
        throw known;
      }
      throw new InputError(
          path.toString(),
          place(e),
          "not a valid glTF file (" + cause(e) + ")",
          "Request a new copy",
          e);
    }
  }

  /** The library trusts its files; what it trips over says little to a user. */
  private static String cause(Exception e) {
    if (e instanceof NullPointerException) {
      return "a member that it needs is missing";
    }
    if (e instanceof IndexOutOfBoundsException) {
      return "a number refers to something that is not in it";
    }
    if (e instanceof IllegalArgumentException || e instanceof BufferUnderflowException) {
      return "a part is shorter than it says";
    }
    return e.getMessage() == null ? "a member is of the wrong kind" : firstLine(e.getMessage());
  }

  private static String place(Exception e) {
    for (Throwable t = e; t != null; t = t.getCause()) {
      if (t instanceof com.fasterxml.jackson.core.JsonProcessingException j
          && j.getLocation() != null) {
        return "line " + j.getLocation().getLineNr();
      }
    }
    return "";
  }

  private static String firstLine(String s) {
    int end = s.indexOf('\n');
    String line = end < 0 ? s : s.substring(0, end);
    return line.length() > 160 ? line.substring(0, 160) + "…" : line;
  }

  private static void checkChunks(ByteSource in) {
    in.check(0, HEADER + CHUNK_HEADER);
    if (in.u32(8) > in.size()) {
      throw in.error(
          8, "the file claims " + in.u32(8) + " bytes and has " + in.size(), "It was cut off");
    }
    long end = in.u32(8);
    long at = HEADER;
    for (int i = 0; at < end; i++) {
      in.check(at, CHUNK_HEADER);
      in.check(at + CHUNK_HEADER, in.u32(at));
      if (i == 0 && in.i32(at + 4) != JSON_CHUNK) {
        throw in.garbled(at, "the first chunk is not JSON");
      }
      at += CHUNK_HEADER + in.u32(at);
    }
  }

  private static ByteBuffer resolve(Path file, String uri, ReadLimits limits) {
    if (uri == null) {
      throw new InputError(file.toString(), "", "a buffer is nowhere", "Request a new copy");
    }
    if (uri.startsWith("data:")) {
      int comma = uri.indexOf(',');
      if (comma < 0 || !uri.substring(0, comma).toLowerCase(Locale.ROOT).endsWith(";base64")) {
        throw new InputError(file.toString(), "data:", "the embedded data is not base64", "");
      }
      return direct(Base64.getDecoder().decode(uri.substring(comma + 1)));
    }
    if (isPicture(uri)) {
      return direct(new byte[0]); // no pixel of a texture is looked at here
    }
    try {
      Path folder = file.toAbsolutePath().normalize().getParent();
      Path beside = folder.resolve(path(uri)).normalize();
      if (uri.contains("://")) {
        throw new InputError(
            file.toString(), uri, "this part is somewhere on a network", "Put it beside the file");
      }
      if (!limits.reach().allows(file, beside)) {
        throw new InputError(file.toString(), uri, "this part " + Reach.REFUSED, "");
      }
      if (!Files.isRegularFile(beside)) {
        throw new InputError(
            file.toString(), uri, "this part is not beside the file", "Send it along");
      }
      ByteSource part = ByteSource.open(beside, limits);
      return direct(part.bytes(0, part.size()));
    } catch (InvalidPathException e) {
      throw new InputError(file.toString(), uri, "not a path", "", e);
    }
  }

  /** The path that an address in a file stands for; in a path a plus is a plus. */
  static String path(String uri) {
    return URLDecoder.decode(uri.replace("+", "%2B"), StandardCharsets.UTF_8);
  }

  private static boolean isPicture(String uri) {
    return uri.toLowerCase(Locale.ROOT).matches(".*\\.(png|jpe?g|webp|ktx2?|dds|basis)");
  }

  /** The library reads through direct buffers in the machine's order. */
  private static ByteBuffer direct(byte[] b) {
    ByteBuffer out = ByteBuffer.allocateDirect(b.length).order(ByteOrder.nativeOrder());
    out.put(b);
    return out.flip();
  }
}
