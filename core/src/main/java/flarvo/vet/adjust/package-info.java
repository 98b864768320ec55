/**
 * Bundle adjustment: cameras, points and lens moved together until the 2D tracks fit best.
 *
 * <ul>
 *   <li>World: right-handed, any scale; camera: looks along local −Z, +Y up.
 *   <li>A camera is a rotation (camera to world, nine numbers row by row) and a centre.
 *   <li>A small turn stands on the right: {@code R ← R · exp([ω]×)}, ω in camera axes, radians.
 *   <li>Residuals are pixels, projected minus observed, x right and y down; cost is half of the sum
 *       of squares (after the loss).
 *   <li>Focal lengths and principal points are pixels.
 * </ul>
 */
package flarvo.vet.adjust;
