package flarvo.format.usd;

import java.util.Set;

/** What the schemas of the format say of types of prims. */
final class UsdTypes {

  /** Types whose prims have no transform, whatever their properties say. */
  private static final Set<String> STILL =
      Set.of(
          "",
          "Backdrop",
          "BlendShape",
          "GeomSubset",
          "Material",
          "NodeGraph",
          "PhysicsCollisionGroup",
          "PhysicsDistanceJoint",
          "PhysicsFixedJoint",
          "PhysicsJoint",
          "PhysicsPrismaticJoint",
          "PhysicsRevoluteJoint",
          "PhysicsScene",
          "PhysicsSphericalJoint",
          "RenderPass",
          "RenderProduct",
          "RenderSettings",
          "RenderVar",
          "Scope",
          "Shader",
          "SkelAnimation");

  private UsdTypes() {}

  /** Whether prims of a type have a transform; those of a type that is not known may have one. */
  static boolean mayMove(String type) {
    return !STILL.contains(type);
  }
}
