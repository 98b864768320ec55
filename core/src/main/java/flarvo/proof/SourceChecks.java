package flarvo.proof;

import flarvo.format.FileScene;
import flarvo.format.Sourced;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import java.util.ArrayList;
import java.util.List;

/**
 * What is compared with the files that came, and not with how they were read: a picture that is
 * given otherwise than a file states it makes source and delivery wrong alike, and no drift shows
 * it.
 */
public final class SourceChecks {

  private SourceChecks() {}

  /** One check for each file that states a picture. */
  public static List<Check> of(ReceivedSet came, Shot shot) {
    List<Check> out = new ArrayList<>();
    for (ReceivedFile f : came.files()) {
      FileScene scene = f.scene();
      scene
          .picture()
          .filter(p -> !p.assumed())
          .map(Sourced::value)
          .ifPresent(p -> out.add(picture(p, shot.picture())));
    }
    return out;
  }

  private static Check picture(PictureSize stated, PictureSize read) {
    return new Check("sourcePicture", stated.equals(read), words(stated), words(read));
  }

  private static String words(PictureSize p) {
    return p + (p.pixelAspect() == 1 ? "" : ", pixel aspect " + p.pixelAspect());
  }
}
