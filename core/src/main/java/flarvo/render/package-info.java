/** Pictures of what stands in the world: over the plate for sign-off, and as passes. */
package flarvo.render;
