package flarvo.cli;

import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.report.InputError;
import java.nio.file.Path;
import picocli.CommandLine.Option;

/** The lens that pictures go through. */
final class LensOption {

  @Option(
      names = "--lens",
      required = true,
      paramLabel = "LENS.json",
      description = "lens sheet, as docs/lens.md describes it")
  private Path sheet;

  Path file() {
    return sheet;
  }

  /**
   * Reads the sheet.
   *
   * @throws InputError when it makes no lens
   */
  LensTrack track() {
    return LensSheet.read(sheet).track();
  }
}
