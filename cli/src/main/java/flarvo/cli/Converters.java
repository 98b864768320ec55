package flarvo.cli;

import flarvo.convention.FilmBack;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.TypeConversionException;

/** Words of the command line to values, with the core's own messages. */
final class Converters {

  private Converters() {}

  private static <T> T parse(java.util.function.Supplier<T> work) {
    try {
      return work.get();
    } catch (IllegalArgumentException e) {
      throw new TypeConversionException(e.getMessage());
    }
  }

  static final class Size implements ITypeConverter<PictureSize> {
    @Override
    public PictureSize convert(String s) {
      return parse(() -> PictureSize.parse(s));
    }
  }

  /** A pixel aspect that can be one. */
  static double aspect(double typed) {
    if (!(typed > 0 && typed < 100)) {
      throw InputError.words(
          typed + " is no pixel aspect", "Give the width of a pixel over its height, such as 2");
    }
    return typed;
  }

  static final class Fps implements ITypeConverter<Rate> {
    @Override
    public Rate convert(String s) {
      return parse(() -> Rate.parse(s));
    }
  }

  static final class Frames implements ITypeConverter<FrameRange> {
    @Override
    public FrameRange convert(String s) {
      return parse(() -> FrameRange.parse(s));
    }
  }

  static final class Back implements ITypeConverter<FilmBack> {
    @Override
    public FilmBack convert(String s) {
      String[] p = s.toLowerCase(java.util.Locale.ROOT).split("x", -1);
      return parse(
          () -> {
            if (p.length != 2) {
              throw new IllegalArgumentException(
                  "'" + s + "' is not a film back; write 36x24, in millimetres");
            }
            return new FilmBack(Double.parseDouble(p[0].trim()), Double.parseDouble(p[1].trim()));
          });
    }
  }
}
