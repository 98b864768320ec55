package flarvo.cli;

import picocli.CommandLine.Option;

/** Whether a command prints for people or for scripts. */
final class JsonOption {

  @Option(names = "--json", description = "print one JSON document")
  private boolean json;

  boolean asked() {
    return json;
  }
}
