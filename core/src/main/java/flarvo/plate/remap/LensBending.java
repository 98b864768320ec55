package flarvo.plate.remap;

import flarvo.lens.Direction;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** Through a lens, which may change from frame to frame. */
public record LensBending(LensTrack lens) implements Bending {

  @Override
  public Object at(int frame) {
    return lens.at(frame);
  }

  @Override
  public String how(int frame) {
    String now = LensSheet.document(LensTrack.of(lens.at(frame))).toString();
    try {
      byte[] d = MessageDigest.getInstance("SHA-256").digest(now.getBytes(StandardCharsets.UTF_8));
      return HexFormat.of().formatHex(d, 0, 12);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e); // every Java has it
    }
  }

  @Override
  public PositionGrid grid(int frame, Direction direction, Overscan overscan) {
    return PositionGrid.of(lens.at(frame).on(overscan.original()), direction, overscan);
  }
}
