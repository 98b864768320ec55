package flarvo.receive;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * Everything that anybody claims about a shot, side by side, and what is to be decided.
 *
 * @param sources names, in the order in which they came
 * @param standing what the shot goes by now, for eyes
 */
public record Ledger(
    List<String> sources,
    List<Claim<?>> claims,
    List<Conflict> conflicts,
    Map<Fact<?>, String> standing,
    Rulings rulings) {

  public Ledger {
    sources = List.copyOf(sources);
    claims = List.copyOf(claims);
    conflicts = List.copyOf(conflicts);
    TreeMap<Fact<?>, String> copy = new TreeMap<>();
    copy.putAll(standing);
    standing = java.util.Collections.unmodifiableMap(copy);
  }

  /** Claims of a source about a fact. */
  public List<Claim<?>> of(Fact<?> fact, String source) {
    return claims.stream().filter(c -> c.fact().equals(fact) && c.source().equals(source)).toList();
  }

  /** The conflict about a fact, if there is one. */
  public Optional<Conflict> conflict(Fact<?> fact) {
    return conflicts.stream().filter(c -> c.fact().equals(fact)).findFirst();
  }

  /** Conflicts without a ruling. */
  public List<Conflict> open() {
    return conflicts.stream().filter(c -> !c.ruled()).toList();
  }

  /** The rulings with every open proposal taken. */
  public Rulings proposals() {
    Rulings r = rulings;
    for (Conflict c : open()) {
      r = c.proposal().isEmpty() ? r : r.with(c.fact(), c.proposal());
    }
    return r;
  }

  /** Tab-separated, for the clipboard and for a file. */
  public String asText() {
    StringBuilder s = new StringBuilder("fact\t" + String.join("\t", sources) + "\truling\n");
    for (Fact<?> f : Fact.values()) {
      s.append(f.title());
      for (String source : sources) {
        s.append('\t');
        List<Claim<?>> own = of(f, source);
        for (int i = 0; i < own.size(); i++) {
          Claim<?> c = own.get(i);
          s.append(i > 0 ? "; " : "").append(c.text()).append(c.assumed() ? " (assumed)" : "");
        }
      }
      s.append('\t').append(rulings.of(f).orElse(standing.getOrDefault(f, ""))).append('\n');
    }
    for (Conflict c : conflicts) {
      s.append("\n").append(c.fact().title()).append(": ").append(c.sentence()).append('\n');
      s.append("  ").append(c.ruled() ? "ruled: " : "proposed: ");
      s.append(rulings.of(c.fact()).orElse(c.proposal())).append(" — ").append(c.reason());
      s.append('\n');
    }
    return s.toString();
  }
}
