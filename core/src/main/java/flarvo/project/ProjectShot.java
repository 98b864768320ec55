package flarvo.project;

import flarvo.decision.AsItStood;
import flarvo.decision.Decision;
import flarvo.decision.DecisionEntry;
import flarvo.decision.DecisionJson;
import flarvo.decision.DecisionLog;
import flarvo.decision.DispatchDecision;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.ShotState;
import flarvo.dispatch.Delivery;
import flarvo.format.table.TableMapping;
import flarvo.receive.Rulings;
import flarvo.scene.PlateRole;
import flarvo.scene.Similarity;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/**
 * A shot as the project file keeps it: where its files are, and what was decided. Paths of files
 * and plates are relative to the project file; those that decisions name are absolute here.
 *
 * @param mappings by the path of the table that each is for
 * @param from dialect of the sender, for what the files do not state
 * @param lists shot lists that state something about it
 * @param start where the solve stands before the first decision
 */
public record ProjectShot(
    String name,
    List<String> files,
    Map<String, TableMapping> mappings,
    List<PlateFolder> plates,
    Optional<String> from,
    List<Listed> lists,
    Similarity start,
    DecisionLog log,
    List<DiaryEntry> diary) {

  /**
   * A folder of plates and what they are for.
   *
   * @param pattern which sequence, where the folder holds several
   */
  public record PlateFolder(String path, PlateRole role, Optional<String> pattern) {
    public PlateFolder(String path, PlateRole role) {
      this(path, role, Optional.empty());
    }
  }

  /**
   * An entry of a shot list.
   *
   * @param path of the list
   * @param shot what it calls the shot
   */
  public record Listed(String path, String shot) {}

  public ProjectShot {
    lists = List.copyOf(lists);
    files = List.copyOf(files);
    mappings = Map.copyOf(mappings);
    plates = List.copyOf(plates);
    diary = List.copyOf(diary);
  }

  /** A shot without tables that need a mapping, and without a diary. */
  public ProjectShot(
      String name,
      List<String> files,
      List<PlateFolder> plates,
      Optional<String> from,
      DecisionLog log) {
    this(name, files, Map.of(), plates, from, List.of(), Similarity.IDENTITY, log, List.of());
  }

  /** What is ruled, by the fact's id, as typed. */
  public Map<String, String> rulings() {
    Rulings r = Rulings.NONE;
    for (DecisionEntry e : log.counting()) {
      r = e.problem().isEmpty() ? ReceiveDecision.ruled(e.decision(), e.outcome(), r) : r;
    }
    Map<String, String> out = new LinkedHashMap<>();
    r.texts().forEach((fact, text) -> out.put(fact.id(), text));
    return out;
  }

  /** Its board of deliveries, as its decisions left it. */
  public List<Delivery> deliveries() {
    ShotState s = ShotState.NONE;
    for (DecisionEntry e : log.counting()) {
      boolean about = e.decision() instanceof DispatchDecision || e.decision() instanceof AsItStood;
      if (about && e.problem().isEmpty()) {
        s =
            e.decision() instanceof AsItStood a
                ? s.withDeliveries(a.deliveries())
                : e.decision().on(s, e.outcome()).state();
      }
    }
    return s.deliveries();
  }

  /** The paths that its decisions name, as the project file spells them. */
  public List<String> decisionFiles(Path folder) {
    return log.entries().stream()
        .map(DecisionEntry::decision)
        .map(Decision::files)
        .flatMap(List::stream)
        .map(p -> DecisionJson.relative(folder, p))
        .distinct()
        .toList();
  }

  /** The same with its files elsewhere; paths are spelled relative to a folder. */
  public ProjectShot withPaths(Path folder, UnaryOperator<String> moved) {
    return respelled(moved)
        .withLog(
            log.withPaths(
                p -> folder.resolve(moved.apply(DecisionJson.relative(folder, p))).normalize()));
  }

  /** The same files spelled otherwise. */
  ProjectShot respelled(UnaryOperator<String> spell) {
    return new ProjectShot(
        name,
        files.stream().map(spell).toList(),
        mappings.entrySet().stream()
            .collect(Collectors.toMap(e -> spell.apply(e.getKey()), Map.Entry::getValue)),
        plates.stream()
            .map(p -> new PlateFolder(spell.apply(p.path()), p.role(), p.pattern()))
            .toList(),
        from,
        lists.stream().map(l -> new Listed(spell.apply(l.path()), l.shot())).toList(),
        start,
        log,
        diary);
  }

  public ProjectShot withLog(DecisionLog l) {
    return new ProjectShot(name, files, mappings, plates, from, lists, start, l, diary);
  }

  public ProjectShot withDiary(List<DiaryEntry> entries) {
    return new ProjectShot(name, files, mappings, plates, from, lists, start, log, entries);
  }
}
