package flarvo.cli;

import java.util.concurrent.Callable;
import picocli.AutoComplete;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

@Command(
    name = "completion",
    description = "Prints a completion script for bash and zsh.",
    footer = {"", "Example:", "  source <(flarvo completion)"})
final class CompletionCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Override
  public Integer call() {
    spec.commandLine().getOut().print(AutoComplete.bash("flarvo", Main.line()));
    return ExitCode.HOLDS;
  }
}
