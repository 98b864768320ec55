package flarvo.cli;

import static flarvo.cli.Said.run;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import picocli.CommandLine;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Model.PositionalParamSpec;

/** Help, README and docs name the options that there are, and no others. */
class HelpTest {

  private static final Path ROOT = Path.of("..");
  private static final Pattern OPTION = Pattern.compile("--[a-z][a-z-]*");

  /** Every command's own; help is the same for all. */
  private static final Set<String> COMMON = Set.of("--help", "--version", "--quiet");

  private static Map<String, CommandLine> commands() {
    return Main.line().getSubcommands();
  }

  static Stream<String> names() {
    return commands().keySet().stream();
  }

  private static Set<String> options(CommandLine c) {
    return c.getCommandSpec().options().stream()
        .map(OptionSpec::longestName)
        .filter(o -> !COMMON.contains(o))
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static Set<String> named(String text) {
    Set<String> out = new TreeSet<>();
    Matcher m = OPTION.matcher(text);
    while (m.find()) {
      out.add(m.group());
    }
    out.removeAll(COMMON);
    return out;
  }

  @ParameterizedTest
  @MethodSource("names")
  void aCommandsHelpHasItsOptionsAndAnExample(String name) {
    Said s = run(name, "--help");
    assertThat(s.code()).isZero();
    assertThat(s.err()).isEmpty();
    CommandLine c = commands().get(name);
    assertThat(named(s.out())).containsAll(options(c));
    assertThat(s.out()).containsAnyOf("Example:", "Examples:").contains("flarvo " + name);
    for (OptionSpec o : c.getCommandSpec().options()) {
      assertThat(o.description()).as(name + " " + o.longestName()).isNotEmpty();
    }
    for (PositionalParamSpec p : c.getCommandSpec().positionalParameters()) {
      assertThat(p.description()).as(name + " " + p.paramLabel()).isNotEmpty();
    }
  }

  @Test
  void theHelpListsEveryCommand() {
    Said s = run("--help");
    assertThat(s.code()).isZero();
    assertThat(s.out()).contains(commands().keySet()).contains("flarvo open FILE");
    assertThat(run().code()).isEqualTo(ExitCode.BAD_INPUT);
  }

  /** A row of README's table names the command's options, all of them. */
  @ParameterizedTest
  @MethodSource("names")
  void theReadmeNamesTheSameOptions(String name) throws IOException {
    List<String> rows =
        Files.readAllLines(ROOT.resolve("README.md")).stream()
            .filter(l -> l.matches("\\| `\\./flarvo " + name + "[ `].*"))
            .toList();
    assertThat(rows).as("rows of " + name).hasSize(1);
    String words = rows.get(0).split("` \\| ", 2)[0];
    assertThat(named(words)).isEqualTo(options(commands().get(name)));
  }

  @Test
  void docsNameNoOptionThatIsNotThere() throws IOException {
    Set<String> all =
        Main.all(Main.line()).stream()
            .flatMap(c -> options(c).stream())
            .collect(Collectors.toCollection(TreeSet::new));
    String launcher = Files.readString(ROOT.resolve("flarvo"));
    try (Stream<Path> docs = Files.list(ROOT.resolve("docs"))) {
      for (Path p : docs.filter(d -> d.toString().endsWith(".md")).toList()) {
        for (String o : named(Files.readString(p))) {
          assertThat(all.contains(o) || launcher.contains(o)).as(p + " " + o).isTrue();
        }
      }
    }
  }

  @Test
  void completionKnowsCommandsAndOptions() {
    Said s = run("completion");
    assertThat(s.code()).isZero();
    assertThat(s.out()).contains("complete -F").contains("convert").contains("--first-frame");
  }
}
