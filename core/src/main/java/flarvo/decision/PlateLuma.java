package flarvo.decision;

import flarvo.plate.PlateImage;
import flarvo.plate.PlateReader;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import flarvo.vet.Luma;
import java.util.Optional;

/** A plate's brightness, for what searches in it. Weights of Rec. 601, 0 to 255. */
public final class PlateLuma {

  private PlateLuma() {}

  /** Empty for a frame that is not there or cannot be read. */
  public static Optional<Luma> of(PlateSequence plates, int frame) {
    if (!plates.frames().contains(frame) || plates.missing().contains(frame)) {
      return Optional.empty();
    }
    try {
      PlateImage image = PlateReader.read(plates, frame);
      int[] argb = image.argb();
      float[] luma = new float[argb.length];
      for (int i = 0; i < argb.length; i++) {
        int c = argb[i];
        luma[i] = 0.299f * (c >> 16 & 255) + 0.587f * (c >> 8 & 255) + 0.114f * (c & 255);
      }
      return Optional.of(new Luma(image.width(), image.height(), luma));
    } catch (InputError e) {
      return Optional.empty(); // a plate that cannot be read is a frame without a mark
    }
  }
}
