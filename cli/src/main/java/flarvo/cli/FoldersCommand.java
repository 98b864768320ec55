package flarvo.cli;

import flarvo.folder.ShotTemplate;
import flarvo.report.InputError;
import flarvo.shotlist.ShotEntry;
import flarvo.shotlist.ShotList;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "folders",
    description = "Makes the folders of new shots, with a log of what is known of each.",
    footer = {
      "",
      "Example:",
      "  flarvo folders /show/shots --list reel.csv",
      "",
      "What is there already stays as it is."
    })
final class FoldersCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(index = "0", paramLabel = "DIR", description = "folder that contains the shots")
  private Path parent;

  @Parameters(index = "1..*", paramLabel = "SHOT", description = "names of shots")
  private List<String> names = List.of();

  @Option(
      names = "--list",
      paramLabel = "LIST",
      description = "shot list (CSV or OpenTimelineIO); all its shots, or those that are named")
  private Path list;

  @Option(
      names = "--template",
      paramLabel = "FOLDER",
      description =
          "folders and texts to copy; {shot}, {first}, {last}, {cut}, {handles} and {rate} are"
              + " replaced (default: plates/original, plates/undistorted, solve, out, notes)")
  private Path template;

  @Override
  public Integer call() {
    List<ShotEntry> shots = shots();
    ShotTemplate t = template == null ? ShotTemplate.USUAL : ShotTemplate.of(template);
    PrintWriter out = spec.commandLine().getOut();
    int made = 0;
    for (ShotEntry s : shots) {
      List<String> paths = t.make(parent, s);
      made += paths.isEmpty() ? 0 : 1;
      paths.forEach(p -> out.println("  made " + p));
    }
    out.println(
        made == 0
            ? "nothing to make"
            : "folders of " + made + (made == 1 ? " shot" : " shots") + " in " + parent);
    return ExitCode.HOLDS;
  }

  private List<ShotEntry> shots() {
    Optional<ShotList> listed = Optional.ofNullable(list).map(ShotList::read);
    if (names.isEmpty()) {
      return listed
          .map(ShotList::shots)
          .orElseThrow(() -> InputError.words("no shot given", "Name shots, or give --list"));
    }
    List<ShotEntry> out = new ArrayList<>();
    for (String n : names) {
      if (listed.isPresent() && listed.get().of(n).isEmpty()) {
        throw new InputError(list.toString(), "", "it has no shot " + n, "Check the name");
      }
      out.add(
          listed
              .flatMap(l -> l.of(n))
              .orElse(
                  new ShotEntry(
                      n, Optional.empty(), 0, 0, OptionalInt.empty(), Optional.empty(), "")));
    }
    return out;
  }
}
