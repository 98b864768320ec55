/**
 * The model of a shot: immutable values, nothing computed but the projection itself.
 *
 * <ul>
 *   <li>World: right-handed, +Y up, metres. Away from a viewer who looks along the default camera
 *       is −Z.
 *   <li>Camera: right-handed, looks along local −Z, +Y up, +X right. A pose is camera-to-world.
 *   <li>Vectors are columns and stand on the right: {@code world = R · local + t}.
 *   <li>Rotations are unit quaternions, w first.
 *   <li>Picture: pixels, origin at the top left corner of the top left pixel, x right, y down; the
 *       centre of the first pixel is (0.5, 0.5).
 *   <li>Film: millimetres. Principal point: offset from the film back's centre, x right, y up.
 *   <li>Time: integer plate frames and an exact rational rate.
 * </ul>
 *
 * This package imports nothing else of ours. {@link flarvo.scene.Shot} values that come straight
 * from a file live in that file's space instead; the types that hold them say so.
 */
package flarvo.scene;
