package flarvo.receive;

import java.util.function.Function;

/**
 * Something in the canonical space that still counts the frames of the file that it came in. A type
 * of its own, so that nobody takes it for one on plate frames: it has to be brought onto them, or
 * taken as it is by name.
 *
 * @param inFile a camera, trackers or a mesh under the file's own frame numbers
 */
public record InFile<T>(T inFile) {

  /** Something made of it, under the same frames. */
  public <R> InFile<R> map(Function<T, R> change) {
    return new InFile<>(change.apply(inFile));
  }
}
