package flarvo.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.nio.file.Path;
import picocli.CommandLine.Option;

/** A level that {@code flarvo level --json} printed, for the commands that send and prove. */
final class LevelOption {

  private static final String ADVICE = "Give what 'flarvo level --json' printed";

  @Option(
      names = "--level",
      paramLabel = "FILE",
      description = "where the shot stands: what 'flarvo level --json' printed")
  private Path file;

  Shot applied(Shot shot) {
    return file == null ? shot : shot.withLevel(read(file));
  }

  static void put(ObjectNode o, Similarity s) {
    Rotation r = s.rotation();
    Vec3 t = s.translation();
    o.put("scale", s.scale());
    o.putArray("rotation").add(r.w()).add(r.x()).add(r.y()).add(r.z());
    o.putArray("translation").add(t.x()).add(t.y()).add(t.z());
  }

  private static Similarity read(Path file) {
    try {
      JsonNode n = new ObjectMapper().readTree(TextSource.read(file, ReadLimits.USUAL));
      JsonNode r = n.path("rotation");
      JsonNode t = n.path("translation");
      if (r.size() != 4 || t.size() != 3) {
        throw new InputError(file.toString(), "", "it holds no level", ADVICE);
      }
      return new Similarity(
          n.path("scale").asDouble(Double.NaN),
          Rotation.normalized(
              r.get(0).asDouble(), r.get(1).asDouble(), r.get(2).asDouble(), r.get(3).asDouble()),
          new Vec3(t.get(0).asDouble(), t.get(1).asDouble(), t.get(2).asDouble()));
    } catch (JsonProcessingException e) {
      throw new InputError(
          file.toString(), "", "this is no JSON (" + e.getOriginalMessage() + ")", ADVICE, e);
    } catch (IllegalArgumentException e) {
      throw new InputError(file.toString(), "", e.getMessage(), ADVICE, e);
    }
  }
}
