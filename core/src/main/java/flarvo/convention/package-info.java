/**
 * How senders and recipients speak, and the exact way from there to the canonical space of {@link
 * flarvo.scene} and back.
 *
 * <ul>
 *   <li>A world is told by three signed axes: right, up and away (from a viewer in front).
 *   <li>A change of handedness is a reflection: rotations are conjugated by it, never multiplied.
 *   <li>Scale touches positions and clipping planes, never focal length or film back.
 *   <li>Vectors are columns; {@code R' = B · R · C⁻¹}, the factor on the right acts first.
 *   <li>Angles are radians unless a name says degrees.
 * </ul>
 */
package flarvo.convention;
