/**
 * Lenses: the step from the original picture to the undistorted one, in which a camera is a
 * pinhole.
 *
 * <ul>
 *   <li>Pixels are canonical: origin at the top left corner of the picture, y down, the centre of
 *       the first pixel at (0.5, 0.5).
 *   <li>Lens coordinates: origin at the centre of distortion, x right, y down, counted in the unit
 *       of the lens's {@link flarvo.lens.Normalisation}. Pixels that are not square are widened by
 *       the pixel aspect first, so a radius is one on the picture as it is seen.
 *   <li>The undistorted picture has the size and the pixels of the original; overscan is added to
 *       it afterwards.
 *   <li>A model has a closed form in one {@link flarvo.lens.Direction}; the other way is solved by
 *       Newton's method. Beyond the fold of the closed form there is no picture, and no answer.
 * </ul>
 */
package flarvo.lens;
