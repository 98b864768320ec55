/**
 * Universal Scene Description. Text layers are read into {@link flarvo.format.usd.UsdLayer}, which
 * knows nothing of text; {@link flarvo.format.usd.UsdSceneReader} evaluates a layer frame by frame.
 *
 * <ul>
 *   <li>Always right-handed; +Y or +Z up; {@code metersPerUnit} is the unit.
 *   <li>Cameras look along local −Z with +Y up; focal length and apertures are in tenths of a scene
 *       unit; an aperture offset moves the film back, so the principal point moves the other way.
 *   <li>Matrices are written row by row for row vectors: the translation is the last row. Read in
 *       that order into a column-major matrix they act on column vectors.
 *   <li>{@code xformOpOrder} lists the operation that acts last first.
 *   <li>Angles are degrees. Time codes count {@code timeCodesPerSecond} a second.
 * </ul>
 */
package flarvo.format.usd;
