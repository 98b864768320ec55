/**
 * glTF 2.0 as text and as a binary file. Files are parsed by a library, behind guards of our own;
 * {@link flarvo.format.gltf.GltfSceneReader} evaluates them.
 *
 * <ul>
 *   <li>Always right-handed, +Y up, metres.
 *   <li>Cameras look along local −Z with +Y up and are stated by their vertical angle in radians;
 *       there is no film back, no lens shift and no zoom.
 *   <li>Matrices are stored column by column for column vectors. Quaternions are x y z w.
 *   <li>Time is in seconds from 0 up, in 32-bit floats. There is no rate.
 * </ul>
 */
package flarvo.format.gltf;
