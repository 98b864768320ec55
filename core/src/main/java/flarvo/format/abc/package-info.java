/**
 * Alembic archives in the Ogawa container. {@link flarvo.format.abc.OgawaFile} knows groups and
 * data, {@link flarvo.format.abc.AbcArchive} objects and properties, {@link
 * flarvo.format.abc.AbcSceneReader} what they mean.
 *
 * <ul>
 *   <li>The format states neither up axis nor unit; by custom it is right-handed.
 *   <li>Cameras look along local −Z with +Y up; focal length in millimetres, apertures and film
 *       offsets in centimetres; a film offset moves the film back, so the principal point moves the
 *       other way.
 *   <li>Matrices are written row by row for row vectors: the translation is the last row. Read in
 *       that order into a column-major matrix they act on column vectors.
 *   <li>Of a transform's operations the one listed last acts first. Angles are degrees.
 *   <li>Time is in seconds; sample times are shared between properties by number.
 * </ul>
 */
package flarvo.format.abc;
