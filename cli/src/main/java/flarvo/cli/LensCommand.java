package flarvo.cli;

import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

@Command(
    name = "lens",
    description = "Finds, converts and shows lenses.",
    subcommands = {
      LensFitCommand.class,
      LensGridCommand.class,
      LensMapCommand.class,
      LensConvertCommand.class,
      LensShowCommand.class
    },
    footer = {
      "",
      "Example:",
      "  flarvo lens fit lines.csv --size 1920x1080 --out lens.json",
      "",
      "'flarvo lens fit --help' shows the options of one."
    })
final class LensCommand implements Runnable {

  @Spec private CommandSpec spec;

  @Override
  public void run() {
    throw new CommandLine.ParameterException(
        spec.commandLine(), "lens needs fit, convert or show; see 'flarvo lens --help'");
  }
}
