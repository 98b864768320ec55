package flarvo.cli;

import flarvo.format.Reach;
import picocli.CommandLine.Option;

/** Whether scenes may have files read from anywhere. */
final class OutsideOption {

  @Option(
      names = "--allow-outside",
      description = "read what scenes refer to outside the folder that was opened")
  private boolean allowed;

  Reach reach() {
    return allowed ? Reach.ANYWHERE : Reach.BESIDE;
  }
}
