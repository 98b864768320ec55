package flarvo.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.level.SimilarityJson;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
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
    o.setAll(SimilarityJson.write(s));
  }

  private static Similarity read(Path file) {
    try {
      JsonNode n = new ObjectMapper().readTree(TextSource.read(file, ReadLimits.USUAL));
      return SimilarityJson.read(StrictJson.of(n, ""));
    } catch (JsonProcessingException e) {
      throw new InputError(
          file.toString(), "", "not valid JSON (" + e.getOriginalMessage() + ")", ADVICE, e);
    } catch (IllegalArgumentException e) {
      throw new InputError(file.toString(), "", e.getMessage(), ADVICE, e);
    }
  }
}
