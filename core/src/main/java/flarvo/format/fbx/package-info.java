/**
 * FBX 7. Both containers, text and binary, are trees of {@link flarvo.format.fbx.FbxNode}; {@link
 * flarvo.format.fbx.FbxSceneReader} evaluates such a tree frame by frame.
 *
 * <ul>
 *   <li>World axes and unit are stated in the global settings; the front axis points towards the
 *       viewer, the unit is given in centimetres.
 *   <li>A camera looks along local +X with +Y up. Film is in inches, focal length in millimetres; a
 *       film offset moves the film back, so the principal point moves the other way.
 *   <li>Time is counted in ticks, 46,186,158,000 a second. Curve values are 32-bit floats; static
 *       properties and geometry are doubles.
 *   <li>Angles are degrees. Vectors are columns:
 *       <pre>
 *   local = T · Roff · Rp · Rpre · R · Rpost⁻¹ · Rp⁻¹ · Soff · Sp · S · Sp⁻¹
 *       </pre>
 * </ul>
 */
package flarvo.format.fbx;
