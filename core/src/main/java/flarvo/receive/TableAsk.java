package flarvo.receive;

import flarvo.convention.Dialect;
import flarvo.format.table.TableAdvice;
import flarvo.format.table.TableMapping;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** Reads tables where nobody can be asked: what is not sure is an error that is a question. */
public final class TableAsk {

  private TableAsk() {}

  /**
   * @param rate of the shot, where times or timecode stand for frames
   * @param from the sender's dialect, whose angles and rotation order count where nothing else is
   *     said
   * @throws InputError with what must be settled and the option that does
   */
  public static ReceivedFile read(
      Path path,
      String text,
      TableAdvice advice,
      Optional<PictureSize> picture,
      Optional<Rate> rate,
      Optional<Dialect> from,
      Progress progress) {
    TableAdvice all = from.map(d -> under(advice, d)).orElse(advice);
    TableMapping look = all.over(text);
    TableMapping m =
        look.withPicture(picture.or(look::picture)).withRate(look.rate().or(() -> rate));
    List<TableAdvice.Doubt> doubts = all.doubts(text, m);
    if (!doubts.isEmpty()) {
      TableAdvice.Doubt first = doubts.get(0);
      throw new InputError(path.toString(), "columns", first.what() + "; " + first.settledBy(), "");
    }
    return ReceivedFile.read(path, text, m, from, progress);
  }

  /** Whether a table of ours, or one that looks so, leaves something open. */
  static boolean isOpen(String text) {
    TableMapping m = TableAdvice.NONE.over(text);
    return m.isCamera() && !TableAdvice.NONE.doubts(text, m).isEmpty();
  }

  private static TableAdvice under(TableAdvice a, Dialect d) {
    return new TableAdvice(
        a.columns(),
        a.mapping(),
        a.order().or(() -> Optional.of(d.rotationOrder())),
        a.angles().or(() -> Optional.of(d.angles())),
        a.up(),
        a.unit(),
        a.shape(),
        a.rate());
  }
}
